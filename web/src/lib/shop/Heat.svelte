<script lang="ts">
  import { api, ask, type Schema } from '$lib/api/client'
  import Choice from './Choice.svelte'
  import LengthField from './LengthField.svelte'
  import { live } from './live'
  import NumberField from './NumberField.svelte'
  import Row from './Row.svelte'
  import ShopCard from './ShopCard.svelte'
  import { cardValues } from './values.svelte'
  import { HEAT, quantityText, units } from '$lib/units.svelte'

  let { formulas }: { formulas: Schema['Formula'][] } = $props()
  type By = '1' | '0.8' | '0.6'
  const BY: { id: By; name: string }[] = [
    { id: '1', name: 'As ASME has it' },
    { id: '0.8', name: 'EN, 0.8 arc' },
    { id: '0.6', name: 'EN, 0.6 GTAW' },
  ]
  const values = cardValues('heat', { volts: 24, amps: 200, travelMmPerMin: 250, efficiency: '1' as By })
  const answer = live(
    'heat',
    () => values,
    () =>
      ask(
        api.POST('/api/calc/heat-input', {
          body: {
            volts: values.volts,
            amps: values.amps,
            travelMmPerMin: values.travelMmPerMin,
            thermalEfficiency: Number(values.efficiency),
          },
        }),
      ),
  )
  // A scale of whole numbers in either unit: to 3 kJ/mm, or to 75 kJ/in.
  const marks = $derived(units.unit === 'in' ? [0, 25, 50, 75] : [0, 1, 2, 3])
  const most = $derived(marks.at(-1)!)
  const share = $derived(Math.min(1, (answer.data?.kJPerMm ?? 0) / HEAT[units.unit].per / most))
</script>

<ShopCard id="heat" {formulas} {values} error={answer.error}>
  {#snippet fields()}
    <NumberField label="Volts" unit="V" bind:value={values.volts} />
    <NumberField label="Amps" unit="A" bind:value={values.amps} />
    <LengthField label="Travel, each minute" bind:mm={values.travelMmPerMin} />
    <Choice label="By" options={BY} bind:value={values.efficiency} />
  {/snippet}
  {#snippet drawing()}
    <svg
      viewBox="0 0 150 34"
      class="w-full"
      role="img"
      aria-label="Heat input on a scale from 0 to {most} {HEAT[units.unit].unit}"
    >
      <rect x="5" y="6" width="140" height="12" fill="var(--steel)" />
      <rect x="5" y="6" width={140 * share} height="12" fill="var(--bronze)" />
      {#each marks as mark (mark)}
        <text
          x={5 + (140 * mark) / most}
          y="31"
          text-anchor={mark === 0 ? 'start' : mark === most ? 'end' : 'middle'}
          class="number"
          font-size="11"
          fill="var(--soft)">{mark}</text
        >
      {/each}
    </svg>
  {/snippet}
  {#snippet result()}
    {#if answer.data}
      <Row name="Heat input">{quantityText(answer.data.kJPerMm, HEAT)}</Row>
    {/if}
  {/snippet}
</ShopCard>
