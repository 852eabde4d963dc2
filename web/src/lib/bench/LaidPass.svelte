<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { moment } from '$lib/days'
  import { session } from '$lib/session.svelte'
  import { processName, techniqueName } from '$lib/words'
  import { ENDS, feedText, numbersText, placeText, runText } from './pass-words'
  import { degreesText } from '$lib/units.svelte'

  let { pass, product }: { pass: Schema['PassView']; product: Schema['Product'] } = $props()
</script>

{#if pass.part}<p class="mt-1 font-semibold">{runText(pass, product)}</p>{/if}
<p class="mt-1">Laid {moment(pass.recordedAt, session.timeZone)}, logged by {pass.recordedBy}.</p>
<p class="number mt-1 text-xl">
  {processName(pass.process)}
  {pass.electrodeClass}, {pass.polarity.toUpperCase()}, {pass.amps} A{pass.volts
    ? `, ${pass.volts} V`
    : ''}{pass.wireFeedMmPerMin ? `, ${feedText(pass.wireFeedMmPerMin)}` : ''}
</p>
<p>
  {techniqueName(pass.technique)}, {pass.progression === 'none' ? '' : `${pass.progression}, `}{pass.hand} hand{pass.interpassC !=
  null
    ? `, ${degreesText(pass.interpassC)} before`
    : ''}.
  {#each ENDS as [which, name] (which)}{pass[which]
      ? ` ${name} at ${placeText(pass[which], product)}.`
      : ''}{/each}
</p>
{#if pass.numbers.travelMmPerMin != null}<p class="number text-lg">{numbersText(pass.numbers)}</p>{/if}
{#if pass.despite.length}
  <p class="font-semibold text-(--caution)">Laid in spite of what was wanting: it counts as coached.</p>
{/if}
