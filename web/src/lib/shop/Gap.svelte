<script lang="ts">
  import { api, ask, type Schema } from '$lib/api/client'
  import Len from '$lib/parts/Len.svelte'
  import { lengthText, MM_PER_INCH as INCH } from '$lib/units.svelte'
  import LengthField from './LengthField.svelte'
  import { live } from './live'
  import NumberField from './NumberField.svelte'
  import Row from './Row.svelte'
  import ShopCard from './ShopCard.svelte'
  import { cardValues } from './values.svelte'

  let { formulas }: { formulas: Schema['Formula'][] } = $props()
  const LEAST_OVERHANG = INCH / 2
  const values = cardValues('gap', {
    lengthMm: 6 * INCH,
    overhangMm: INCH,
    thicknessMm: (3 / 8) * INCH,
    bevelDeg: 22.5,
    rootOpeningMm: INCH / 4,
  })
  const answer = live(
    'gap',
    () => values,
    () =>
      ask(
        api.POST('/api/calc/bead-plan', {
          body: {
            form: 'singleV',
            thicknessMm: values.thicknessMm,
            bevelDegA: values.bevelDeg,
            bevelDegB: values.bevelDeg,
            rootOpeningMm: values.rootOpeningMm,
            rootFaceMm: 0,
            jRadiusMm: null,
            legMm: null,
            strip: true,
            position: '1G',
            layers: [1, 1],
            beadAreaMm2: null,
            beadWidthMm: null,
            overlap: null,
            fillBelowFlushMm: null,
          },
        }),
      ),
  )
  const stripMm = $derived(values.lengthMm + 2 * values.overhangMm)
  const scale = $derived(140 / Math.max(stripMm, 1))
</script>

<ShopCard id="gap" {formulas} {values} error={answer.error}>
  {#snippet fields()}
    <LengthField label="Joint length" bind:mm={values.lengthMm} />
    <LengthField label="Past each end" bind:mm={values.overhangMm} />
    <LengthField label="Thickness" bind:mm={values.thicknessMm} />
    <NumberField label="Bevel, each" unit="°" bind:value={values.bevelDeg} />
    <LengthField label="Gap" bind:mm={values.rootOpeningMm} />
  {/snippet}
  {#snippet drawing()}
    <svg
      viewBox="0 0 150 84"
      class="w-full"
      role="img"
      aria-label="Both plates from above, with the strip under them"
    >
      <rect x="5" y="34" width={stripMm * scale} height="16" fill="var(--straw)" stroke="var(--ink)" />
      {#each [[4, 34], [46, 34]] as [y, height] (y)}
        <rect
          x={5 + values.overhangMm * scale}
          {y}
          width={values.lengthMm * scale}
          {height}
          fill="var(--steel)"
          stroke="var(--ink)"
        />
      {/each}
      <text x="75" y="25" text-anchor="middle" class="number" font-size="12" fill="var(--ink)"
        >{lengthText(values.lengthMm)}</text
      >
      <text x="75" y="70" text-anchor="middle" class="number" font-size="12" fill="var(--ink)"
        >strip {lengthText(stripMm)}</text
      >
    </svg>
  {/snippet}
  {#snippet result()}
    <Row name="Strip length"><Len mm={stripMm} /></Row>
    {#if values.overhangMm < LEAST_OVERHANG}
      <p class="text-(--caution)">At least <Len mm={LEAST_OVERHANG} /> past each end.</p>
    {/if}
    {#if answer.data}
      <Row name="Gap closes by about"><Len mm={answer.data.shrinkageMm} /></Row>
      <Row name="Left of the gap"
        ><Len mm={Math.max(0, values.rootOpeningMm - answer.data.shrinkageMm)} /></Row
      >
    {/if}
  {/snippet}
</ShopCard>
