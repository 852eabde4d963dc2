<script lang="ts">
  import { api, ask, type Schema } from '$lib/api/client'
  import { AREA, MASS_RATE, MM_PER_INCH as INCH, quantityText } from '$lib/units.svelte'
  import LengthField from './LengthField.svelte'
  import { live } from './live'
  import NumberField from './NumberField.svelte'
  import Row from './Row.svelte'
  import ShopCard from './ShopCard.svelte'
  import { cardValues } from './values.svelte'

  let { formulas }: { formulas: Schema['Formula'][] } = $props()
  const values = cardValues('wire', {
    diameterMm: 0.045 * INCH,
    feedMmPerMin: 360 * INCH,
    travelMmPerMin: 10 * INCH,
    recovery: 0.86,
  })
  const answer = live(
    'wire',
    () => values,
    () => ask(api.POST('/api/calc/wire', { body: { ...values, densityKgPerM3: 7850 } })),
  )
  const side = $derived(Math.sqrt(Math.max(0, answer.data?.beadAreaMm2 ?? 0)))
</script>

<ShopCard id="wire" {formulas} {values} error={answer.error}>
  {#snippet fields()}
    <LengthField label="Wire" bind:mm={values.diameterMm} />
    <LengthField label="Wire feed, each minute" bind:mm={values.feedMmPerMin} />
    <LengthField label="Travel, each minute" bind:mm={values.travelMmPerMin} />
    <NumberField label="Efficiency (0.98 solid, 0.86 cored)" bind:value={values.recovery} />
  {/snippet}
  {#snippet drawing()}
    <svg
      viewBox="0 0 150 40"
      class="w-full"
      role="img"
      aria-label="The wire and the bead that it makes, to one scale"
    >
      <circle cx="20" cy="32" r={values.diameterMm * 1.5} fill="var(--steel)" stroke="var(--ink)" />
      <path
        d="M{80 - side * 3},38 Q80,{38 - side * 6} {80 + side * 3},38Z"
        fill="var(--bronze)"
        stroke="var(--ink)"
      />
    </svg>
  {/snippet}
  {#snippet result()}
    {#if answer.data}
      <Row name="Deposition">{quantityText(answer.data.depositionKgPerH, MASS_RATE)}</Row>
      <Row name="Bead area">{quantityText(answer.data.beadAreaMm2, AREA)}</Row>
    {/if}
  {/snippet}
</ShopCard>
