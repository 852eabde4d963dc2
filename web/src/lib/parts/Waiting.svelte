<script lang="ts">
  import { Refused } from '$lib/api/client'

  let { error, retry, what }: { error: unknown; retry: () => void; what: string } = $props()
</script>

{#if error}
  <div class="sheet m-6 max-w-xl border-l-4 p-6" style:border-left-color="var(--caution)" role="alert">
    <h1 class="text-xl">
      {error instanceof Refused && error.status === 404 ? 'Not here' : `${what} cannot be shown`}
    </h1>
    <p class="mt-2">{error instanceof Error ? error.message : 'Something went wrong.'}</p>
    <div class="mt-4 flex gap-3">
      <button class="tap" onclick={retry}>Try again</button>
      <a class="tap" href="/">Go to the floor</a>
    </div>
  </div>
{:else}
  <p class="p-6 text-(--soft)" role="status">Fetching {what.toLowerCase()}…</p>
{/if}
