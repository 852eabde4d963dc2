<script lang="ts">
  import { api, ask, type Schema } from '$lib/api/client'
  import Len from '$lib/parts/Len.svelte'
  import { celsius, degrees, degreesText, degreeUnit, MM_PER_INCH as INCH } from '$lib/units.svelte'
  import LengthField from './LengthField.svelte'
  import { live } from './live'
  import NumberField from './NumberField.svelte'
  import Row from './Row.svelte'
  import ShopCard from './ShopCard.svelte'
  import { cardValues } from './values.svelte'

  let { formulas }: { formulas: Schema['Formula'][] } = $props()
  const values = cardValues('preheat', {
    carbon: 0.2,
    manganese: 1.2,
    chromium: 0,
    molybdenum: 0,
    vanadium: 0,
    nickel: 0,
    copper: 0,
    silicon: 0.3,
    category: 'B',
    thicknessMm: INCH,
    otherMm: INCH,
    metalC: 20,
  })
  const answer = live(
    'preheat',
    () => values,
    () => {
      const { thicknessMm, otherMm, ...rest } = values
      return ask(api.POST('/api/calc/preheat', { body: { ...rest, pathsMm: [thicknessMm, otherMm] } }))
    },
  )
  const PARTS = [
    ['carbon', 'C'],
    ['manganese', 'Mn'],
    ['silicon', 'Si'],
    ['chromium', 'Cr'],
    ['molybdenum', 'Mo'],
    ['vanadium', 'V'],
    ['nickel', 'Ni'],
    ['copper', 'Cu'],
  ] as const
</script>

<ShopCard id="preheat" {formulas} {values} error={answer.error}>
  {#snippet fields()}
    <label class="col-span-full">
      <span class="eyebrow block">Steel and filler</span>
      <select class="field w-full" bind:value={values.category}>
        {#each answer.data?.categories ?? [{ id: values.category, name: values.category }] as one (one.id)}
          <option value={one.id}>{one.id}: {one.name}</option>
        {/each}
      </select>
    </label>
    <LengthField label="Thickness, one part" bind:mm={values.thicknessMm} />
    <LengthField label="The other part" bind:mm={values.otherMm} />
    <NumberField
      label="The metal now"
      unit={degreeUnit()}
      bind:value={
        () => Math.round(degrees(values.metalC) * 10) / 10, (shown) => (values.metalC = celsius(shown))
      }
    />
    {#each PARTS as [key, name] (key)}
      <NumberField label="{name}, %" bind:value={values[key]} />
    {/each}
  {/snippet}
  {#snippet result()}
    {#if answer.data}
      {@const it = answer.data}
      <Row name="At least, before and between passes">{degreesText(it.leastC)}</Row>
      {#if it.isBelow}
        <p class="text-(--caution)">
          The metal is colder: warm it to {degreesText(Math.max(it.leastC, it.warmToC))}.
        </p>
      {/if}
      <p class="text-sm text-(--soft)">
        {it.source}; {it.confidence} % sure. Steel under {degreesText(it.coldC)} is warmed to {degreesText(
          it.warmToC,
        )} first. A procedure may ask for more, and never for less.
      </p>
      <Row name="Carbon equivalent">{it.carbonEquivalent.toFixed(2)}</Row>
      <Row name="With silicon">{it.carbonEquivalentWithSilicon.toFixed(2)}</Row>
      <Row name="Combined thickness"><Len mm={it.combinedThicknessMm} /></Row>
      {#if !it.inSpan}
        <p>
          Outside the steels that the charts are for (carbon 0.05 to 0.25 %, equivalent 0.30 to 0.70 %): the
          equivalent says nothing here. Ask a welding engineer.
        </p>
      {/if}
    {/if}
  {/snippet}
</ShopCard>
