<script lang="ts">
  import { Refused } from '$lib/api/client'
  import Mark from '$lib/ui/Mark.svelte'

  type Props = {
    error: unknown
    retry: () => void
    what: string
    /** How high what comes will be, so that nothing below it moves then. */
    room?: string
  }
  let { error, retry, what, room = '60vh' }: Props = $props()
</script>

{#if error}
  <div class="sheet mt-6 max-w-xl border-l-8 p-6" style:border-left-color="var(--caution)" role="alert">
    <h1 class="flex items-center gap-2 text-xl">
      <Mark of="out" />{error instanceof Refused && error.status === 404
        ? 'Not here'
        : `${what} cannot be shown`}
    </h1>
    <p class="mt-2">{error instanceof Error ? error.message : 'Something went wrong.'}</p>
    <div class="mt-4 flex gap-5">
      <button class="plate" onclick={retry}>Try again</button>
      <a class="bare" href="/">Go to the floor</a>
    </div>
  </div>
{:else}
  <p class="flex items-start gap-2 pt-6 text-(--soft)" style:min-height={room} role="status">
    <span class="flex gap-1 pt-1"><Mark of="laid" /><Mark of="open" /><Mark of="open" /></span>
    Fetching {what.toLowerCase()}
  </p>
{/if}
