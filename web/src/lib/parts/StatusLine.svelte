<script lang="ts">
  import { outbox, sentence } from '$lib/outbox.svelte'
  import Mark from '$lib/ui/Mark.svelte'

  /** `long` says it in a whole sentence, where no bar holds the place. */
  let { onopen, long = false }: { onopen: () => void; long?: boolean } = $props()
  let online = $state(navigator.onLine)
  const waiting = $derived(outbox.waiting.length)
  const refused = $derived(outbox.refused.length)
  const says = $derived(sentence(waiting, refused, outbox.holdup, online, outbox.isKept))
  const short = $derived(
    refused
      ? `Settle ${refused}`
      : waiting
        ? `Kept here: ${waiting} to send`
        : online
          ? ''
          : 'No network: kept here',
  )
</script>

<svelte:window ononline={() => (online = true)} onoffline={() => (online = false)} />

<!-- Always there and always in its place, so that what it says is read out when it comes and nothing moves. -->
<div role="status" class="min-w-0" class:px-5={long && says}>
  {#if says && outbox.items.length}
    <button
      class="flex min-h-[48px] items-center gap-2 font-semibold whitespace-nowrap {refused
        ? 'text-(--caution)'
        : 'text-(--straw-ink)'}"
      title={says}
      onclick={onopen}><Mark of={refused ? 'fault' : 'kept'} />{short}</button
    >
    <span class:sr-only={!long}>{says}</span>
  {:else if says}
    <span class="flex min-h-[48px] items-center gap-2 font-semibold text-(--straw-ink)" title={says}
      ><Mark of="kept" /><span class={long ? '' : 'whitespace-nowrap'}
        >{long ? says : short || 'Not kept here'}</span
      ></span
    >
    {#if !long}<span class="sr-only">{says}</span>{/if}
  {:else if !long}
    <span class="flex items-center gap-1 text-sm font-semibold whitespace-nowrap text-(--soft)"
      ><Mark of="clean" /><span class="max-sm:sr-only">All saved</span></span
    >
  {/if}
</div>
