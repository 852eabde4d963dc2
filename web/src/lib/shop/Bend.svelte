<script lang="ts">
  import { MM_PER_INCH as INCH } from '$lib/units.svelte'
  import { api, ask, type Schema } from '$lib/api/client'
  import LengthField from './LengthField.svelte'
  import { live } from './live'
  import Row from './Row.svelte'
  import ShopCard from './ShopCard.svelte'
  import { cardValues } from './values.svelte'

  let { formulas }: { formulas: Schema['Formula'][] } = $props()
  const values = cardValues('bend', { specimenThicknessMm: (3 / 8) * INCH, plungerDiameterMm: 1.5 * INCH })
  const answer = live(
    'bend',
    () => values,
    () => ask(api.POST('/api/calc/bend', { body: { ...values } })),
  )
  const scale = $derived(60 / Math.max(1, values.plungerDiameterMm + 2 * values.specimenThicknessMm))
  const inner = $derived((values.plungerDiameterMm / 2) * scale)
  const outer = $derived(inner + values.specimenThicknessMm * scale)
</script>

<ShopCard id="bend" {formulas} {values} error={answer.error}>
  {#snippet fields()}
    <LengthField label="Specimen thickness" bind:mm={values.specimenThicknessMm} />
    <LengthField label="Plunger diameter" bind:mm={values.plungerDiameterMm} />
  {/snippet}
  {#snippet drawing()}
    <svg viewBox="0 0 150 76" class="w-full" role="img" aria-label="A strap bent round the plunger, to scale">
      <path
        d="M{75 - outer},4 V38 A{outer} {outer} 0 0 0 {75 + outer},38 V4 H{75 +
          inner} V38 A{inner} {inner} 0 0 1 {75 - inner},38 V4Z"
        fill="var(--bronze)"
        stroke="var(--ink)"
      />
      <path
        d="M{75 - inner},4 V38 A{inner} {inner} 0 0 0 {75 + inner},38 V4Z"
        fill="var(--steel)"
        stroke="var(--ink)"
      />
    </svg>
  {/snippet}
  {#snippet result()}
    {#if answer.data}<Row name="Outer strain">{answer.data.outerStrainPercent.toFixed(1)} %</Row>{/if}
  {/snippet}
</ShopCard>
