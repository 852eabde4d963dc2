<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import VerdictMark from '$lib/parts/VerdictMark.svelte'
  import Fold from '$lib/ui/Fold.svelte'
  import { inUnits } from '$lib/units.svelte'
  import { limitText, sourceText } from './limits'

  /** What a finding would come to: passes or fails by which limit, the specimen it lies in, why it is likely there and what cures it. */
  let { told }: { told: Schema['FindingPreview'] } = $props()
  const deciding = $derived(told.limits[0])
  const cause = $derived(told.causes[0])
</script>

<div
  class="border-l-8 px-3 py-2"
  style:border-left-color={told.outcome === 'reject' ? 'var(--caution)' : 'var(--blue)'}
  style:background={told.outcome === 'reject' ? 'var(--caution-ground)' : 'var(--done-ground)'}
  role="status"
>
  <p class="flex flex-wrap items-baseline gap-x-3">
    <VerdictMark kind={told.outcome} big />
    {#if deciding}<strong>{limitText(deciding)}</strong>
      <span class="text-sm text-(--soft)">{sourceText(deciding)}</span>{/if}
  </p>
  {#each told.threatens as specimen (specimen.specimen)}
    <p class="font-semibold">The {specimen.name} is cut there.</p>
  {/each}
  {#if cause}
    <p class="leading-snug">
      <span class="text-(--soft)">Likely: {inUnits([`${cause.cause}.`, ...cause.grounds].join(' '))}</span>
      <strong>Do now:</strong>
      {inUnits(cause.doNow)}
    </p>
    <!-- On a tablet it stands folded below, so that the verdict is in sight with the ruler. -->
    <p class="leading-snug max-lg:hidden"><strong>Next time:</strong> {inUnits(cause.cure)}</p>
  {/if}
</div>
{#if cause}
  <Fold
    name="Why, and other causes"
    value={told.causes
      .slice(1)
      .map((one) => one.cause.toLowerCase())
      .join(', ')}
  >
    <ul>
      {#each told.causes as one (one.id)}
        <li class="row flex-col !items-start !gap-0">
          <strong>{one.cause}</strong>
          <span>{inUnits([...one.grounds, one.why].join(' '))}</span>
          <span>Do now: {inUnits(one.doNow)}</span>
          <span>Next time: {inUnits(one.cure)}</span>
        </li>
      {/each}
    </ul>
  </Fold>
{/if}
