<script lang="ts">
  import { outbox, sentence } from '$lib/outbox.svelte'

  let { onopen }: { onopen: () => void } = $props()
  let online = $state(navigator.onLine)
  const says = $derived(
    sentence(outbox.waiting.length, outbox.refused.length, outbox.holdup, online, outbox.isKept),
  )
</script>

<svelte:window ononline={() => (online = true)} onoffline={() => (online = false)} />

<!-- Always there, so that what it says is read out when it comes. -->
<div role="status">
  {#if says}
    <p
      class="flex flex-wrap items-center gap-x-4 gap-y-1 bg-(--caution-ground) px-5 py-1.5 font-semibold text-(--caution)"
    >
      <span>{says}</span>
      {#if outbox.items.length}<button class="tap" onclick={onopen}
          >{outbox.refused.length ? 'Settle' : 'Show'}
          <span class="number">{outbox.items.length}</span></button
        >{/if}
    </p>
  {/if}
</div>
