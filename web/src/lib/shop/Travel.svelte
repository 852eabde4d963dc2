<script lang="ts">
  import { api, ask, type Schema } from '$lib/api/client'
  import { AREA, digits, HEAT, MM_PER_INCH as INCH, quantityText, SPEED } from '$lib/units.svelte'
  import Choice from './Choice.svelte'
  import LengthField from './LengthField.svelte'
  import { live } from './live'
  import NumberField from './NumberField.svelte'
  import Row from './Row.svelte'
  import ShopCard from './ShopCard.svelte'
  import { cardValues } from './values.svelte'

  let { formulas }: { formulas: Schema['Formula'][] } = $props()
  const values = cardValues('travel', {
    by: 'rod' as 'rod' | 'watch',
    runMm: 7 * INCH,
    seconds: 60,
    amps: 120,
    volts: 22,
    rodDiameterMm: INCH / 8,
    stubMm: 2 * INCH,
    recovery: 1.1,
  })
  const answer = live(
    'travel',
    () => values,
    () =>
      ask(
        api.POST('/api/calc/travel', {
          body: {
            runMm: values.runMm,
            seconds: values.by === 'watch' ? values.seconds : null,
            amps: values.amps,
            volts: values.volts,
            rodDiameterMm: values.by === 'rod' ? values.rodDiameterMm : null,
            rodLengthMm: null,
            stubMm: values.by === 'rod' ? values.stubMm : null,
            recovery: values.recovery,
            densityKgPerM3: null,
          },
        }),
      ),
  )
</script>

<ShopCard id="travel" {formulas} {values} error={answer.error}>
  {#snippet fields()}
    <div class="col-span-full">
      <Choice
        label="How long the arc burned"
        options={[
          { id: 'rod', name: 'By the rod' },
          { id: 'watch', name: 'By the watch' },
        ]}
        bind:value={values.by}
      />
    </div>
    <LengthField label="Length of the run" bind:mm={values.runMm} />
    {#if values.by === 'watch'}
      <NumberField label="Arc time" unit="s" bind:value={values.seconds} />
    {:else}
      <LengthField label="Core diameter" bind:mm={values.rodDiameterMm} />
      <LengthField label="Stub" bind:mm={values.stubMm} />
      <NumberField label="Recovery (0.9 cellulosic, 1.1 basic)" bind:value={values.recovery} />
    {/if}
    <NumberField label="Amps" bind:value={values.amps} />
    <NumberField label="Volts" bind:value={values.volts} />
  {/snippet}
  {#snippet result()}
    {#if answer.data}
      <Row name="Travel">{quantityText(answer.data.mmPerMin, SPEED)}</Row>
      <Row name={answer.data.fromRod ? 'Arc time, by its amps' : 'Arc time'}
        >{digits(Math.round(answer.data.seconds))} s</Row
      >
      {#if answer.data.beadAreaMm2}
        <Row name="Bead area">{quantityText(answer.data.beadAreaMm2, AREA)}</Row>
      {/if}
      {#if answer.data.heatKjPerMm}
        <Row name="Heat input">{quantityText(answer.data.heatKjPerMm, HEAT)}</Row>
      {/if}
    {/if}
  {/snippet}
</ShopCard>
