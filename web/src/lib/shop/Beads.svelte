<script lang="ts">
  import { MM_PER_INCH as INCH } from '$lib/units.svelte'
  import { api, ask, type Schema } from '$lib/api/client'
  import Len from '$lib/parts/Len.svelte'
  import LengthField from './LengthField.svelte'
  import { live } from './live'
  import NumberField from './NumberField.svelte'
  import Row from './Row.svelte'
  import ShopCard from './ShopCard.svelte'
  import { cardValues } from './values.svelte'

  let { formulas }: { formulas: Schema['Formula'][] } = $props()
  const values = cardValues('beads', { widthMm: (11 / 16) * INCH, beadWidthMm: (3 / 8) * INCH, overlap: 0.5 })
  const answer = live(
    'beads',
    () => values,
    () => ask(api.POST('/api/calc/beads', { body: { ...values } })),
  )
  const scale = $derived(140 / Math.max(values.widthMm, 0.1))
</script>

<ShopCard id="beads" {formulas} {values} error={answer.error}>
  {#snippet fields()}
    <LengthField label="Width to cover" bind:mm={values.widthMm} />
    <LengthField label="Bead width" bind:mm={values.beadWidthMm} />
    <NumberField label="Overlap, share" bind:value={values.overlap} />
  {/snippet}
  {#snippet drawing()}
    <svg viewBox="0 0 150 50" class="w-full" role="img" aria-label="Beads side by side across the width">
      <rect x="5" y="34" width="140" height="12" fill="var(--steel)" stroke="var(--ink)" />
      {#if answer.data && answer.data.count <= 60}
        {#each { length: answer.data.count }, index (index)}
          {@const left = 5 + index * answer.data.spacingMm * scale}
          {@const width = Math.min(values.beadWidthMm * scale, 140)}
          <path
            d="M{left},34 Q{left + width / 2},{34 - Math.min(40, width / 2)} {left + width},34Z"
            fill="var(--bronze)"
            fill-opacity="0.75"
            stroke="var(--sheet)"
          />
        {/each}
      {/if}
    </svg>
  {/snippet}
  {#snippet result()}
    {#if answer.data}
      <Row name="Beads">{answer.data.count}</Row>
      <Row name="Centre to centre"><Len mm={answer.data.spacingMm} /></Row>
      <Row name="Each at least so wide"><Len mm={answer.data.widthEachMm} /></Row>
      {#if answer.data.oneFewerMm}
        <Row name="One bead fewer: each"><Len mm={answer.data.oneFewerMm} /></Row>
      {/if}
    {/if}
  {/snippet}
</ShopCard>
