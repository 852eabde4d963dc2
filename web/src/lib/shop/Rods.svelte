<script lang="ts">
  import { MASS, MM_PER_INCH as INCH, quantityText } from '$lib/units.svelte'
  import { api, ask, type Schema } from '$lib/api/client'
  import LengthField from './LengthField.svelte'
  import { live } from './live'
  import NumberField from './NumberField.svelte'
  import Row from './Row.svelte'
  import ShopCard from './ShopCard.svelte'
  import { cardValues } from './values.svelte'

  let { formulas }: { formulas: Schema['Formula'][] } = $props()
  const values = cardValues('rods', {
    diameterMm: INCH / 8,
    lengthMm: 14 * INCH,
    stubMm: 2 * INCH,
    recovery: 1.1,
    requiredG: 200,
  })
  const answer = live(
    'rods',
    () => values,
    () =>
      ask(
        api.POST('/api/calc/electrode', {
          body: {
            diameterMm: values.diameterMm,
            lengthMm: values.lengthMm,
            stubMm: values.stubMm,
            recovery: values.recovery,
            densityKgPerM3: 7850,
            requiredKg: values.requiredG / 1000,
          },
        }),
      ),
  )
  const stub = $derived((140 * values.stubMm) / Math.max(values.lengthMm, 1))
</script>

<ShopCard id="rods" {formulas} {values} error={answer.error}>
  {#snippet fields()}
    <LengthField label="Core diameter" bind:mm={values.diameterMm} />
    <LengthField label="Rod length" bind:mm={values.lengthMm} />
    <LengthField label="Stub" bind:mm={values.stubMm} />
    <NumberField label="Recovery (0.9 cellulosic, 1.1 basic)" bind:value={values.recovery} />
    <NumberField
      label="Metal needed"
      of={MASS}
      bind:value={() => values.requiredG / 1000, (kg) => (values.requiredG = kg * 1000)}
    />
  {/snippet}
  {#snippet drawing()}
    <svg viewBox="0 0 150 30" class="w-full" role="img" aria-label="A rod with the stub that is thrown away">
      <rect x="5" y="12" width="140" height="6" fill="var(--steel)" stroke="var(--ink)" />
      <rect
        x={5 + stub}
        y="9"
        width={Math.max(0, 140 - stub)}
        height="12"
        fill="var(--bronze)"
        stroke="var(--ink)"
      />
    </svg>
  {/snippet}
  {#snippet result()}
    {#if answer.data}
      <Row name="Deposit per rod">{quantityText(answer.data.depositGPerRod / 1000, MASS)}</Row>
      <Row name="Rods">{answer.data.rods}</Row>
    {/if}
  {/snippet}
</ShopCard>
