<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { feedText } from './pass-words'
  import { inUnits } from '$lib/units.svelte'

  /** What the card of a bead says beside its settings: its note, and the ranges that the hand holds. */
  let { card, silent = false }: { card: Schema['PassCard']; silent?: boolean } = $props()
  const range = (span: Schema['Span'] | null | undefined, text: (value: number) => string) =>
    span ? (span.min === span.max ? text(span.min) : `${text(span.min)} to ${text(span.max)}`) : null
  const rows = $derived(
    [
      ['Angle along', range(card.ranges.travelAngleDeg, (value) => `${value}°`)],
      ['Angle across', range(card.ranges.workAngleDeg, (value) => `${value}°`)],
      ['Feed', range(card.ranges.wireFeedMmPerMin, feedText)],
      ['Volts', range(card.ranges.volts, (value) => `${value} V`)],
      ['Cup', range(card.ranges.cupNumber, String)],
    ].filter((row): row is [string, string] => row[1] != null),
  )
</script>

<h3 class="pb-1 font-semibold">On the card</h3>
{#if card.note && !silent}<p class="max-w-[70ch] border-l-4 border-(--straw) pl-3">
    {inUnits(card.note)}
  </p>{/if}
{#if rows.length}
  <dl class="flex flex-wrap gap-x-8 gap-y-1 pt-2">
    {#each rows as [name, value] (name)}
      <div>
        <dt class="eyebrow">{name}</dt>
        <dd class="number text-xl">{value}</dd>
      </div>
    {/each}
  </dl>
{/if}
