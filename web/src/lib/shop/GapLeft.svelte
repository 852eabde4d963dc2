<script lang="ts">
  import { api, ask, type Schema } from '$lib/api/client'
  import Len from '$lib/parts/Len.svelte'
  import { inUnits, MM_PER_INCH as INCH } from '$lib/units.svelte'
  import Choice from './Choice.svelte'
  import LengthField from './LengthField.svelte'
  import { live } from './live'
  import NumberField from './NumberField.svelte'
  import Row from './Row.svelte'
  import ShopCard from './ShopCard.svelte'
  import { cardValues } from './values.svelte'

  let { formulas }: { formulas: Schema['Formula'][] } = $props()
  const values = cardValues('gapLeft', {
    product: 'pipe' as 'pipe' | 'plate',
    thicknessMm: 0.432 * INCH,
    bevelDeg: 37.5,
    rootOpeningMm: INCH / 8,
    rootFaceMm: (3 / 32) * INCH,
    diameterMm: INCH / 8,
    tacks: 3,
    held: 'no' as 'no' | 'yes',
  })
  const answer = live(
    'gapLeft',
    () => values,
    () =>
      ask(
        api.POST('/api/calc/gap-left', {
          body: {
            product: values.product,
            thicknessMm: values.thicknessMm,
            bevelDegA: values.bevelDeg,
            bevelDegB: values.bevelDeg,
            rootOpeningMm: values.rootOpeningMm,
            rootFaceMm: values.rootFaceMm,
            diameterMm: values.diameterMm,
            tacks: values.tacks,
            isHeld: values.held === 'yes',
          },
        }),
      ),
  )
</script>

<ShopCard id="gapLeft" {formulas} {values} error={answer.error}>
  {#snippet fields()}
    <Choice
      label="Joint"
      options={[
        { id: 'pipe', name: 'Pipe' },
        { id: 'plate', name: 'Plate' },
      ]}
      bind:value={values.product}
    />
    <Choice
      label="Bridged or clamped"
      options={[
        { id: 'no', name: 'No' },
        { id: 'yes', name: 'Yes' },
      ]}
      bind:value={values.held}
    />
    <LengthField label="Thickness" bind:mm={values.thicknessMm} />
    <NumberField label="Bevel, each" unit="°" bind:value={values.bevelDeg} />
    <LengthField label="Gap" bind:mm={values.rootOpeningMm} />
    <LengthField label="Root face" bind:mm={values.rootFaceMm} />
    <LengthField label="Rod or wire" bind:mm={values.diameterMm} />
    <NumberField label="Tacks" bind:value={values.tacks} />
  {/snippet}
  {#snippet result()}
    {#if answer.data}
      {@const it = answer.data}
      <Row name="Closes by about"><Len mm={it.closesMm} /></Row>
      <Row name={it.secondEndMm == null ? 'At the end of the seam' : 'End of the first half'}
        ><Len mm={it.endMm} /></Row
      >
      {#if it.secondStartMm != null}
        <Row name="Start of the second half"><Len mm={it.secondStartMm} /></Row>
        <Row name="Where it is tied in"><Len mm={it.secondEndMm ?? 0} /></Row>
      {/if}
      <ul class="mt-2">
        {#each it.ways as way (way.base)}
          <li class="border-t py-1">
            <strong>{way.name}</strong>: {inUnits(way.says)}
          </li>
        {/each}
      </ul>
    {/if}
  {/snippet}
</ShopCard>
