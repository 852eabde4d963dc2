<script lang="ts">
  import { AREA, lengthText, MASS, MM_PER_INCH as INCH, quantityText, VOLUME } from '$lib/units.svelte'
  import { api, ask, type Schema } from '$lib/api/client'
  import JointSection from '$lib/drawings/JointSection.svelte'
  import Len from '$lib/parts/Len.svelte'
  import Choice from './Choice.svelte'
  import LengthField from './LengthField.svelte'
  import { live } from './live'
  import NumberField from './NumberField.svelte'
  import Row from './Row.svelte'
  import ShopCard from './ShopCard.svelte'
  import { cardValues } from './values.svelte'

  let { formulas }: { formulas: Schema['Formula'][] } = $props()
  type Form = 'singleV' | 'singleJ' | 'squareButt' | 'teeFillet'
  const FORMS: { id: Form; name: string }[] = [
    { id: 'singleV', name: 'V' },
    { id: 'singleJ', name: 'J' },
    { id: 'squareButt', name: 'Square' },
    { id: 'teeFillet', name: 'Fillet' },
  ]
  const ROUND: { id: 'plate' | 'pipe'; name: string }[] = [
    { id: 'plate', name: 'Plate' },
    { id: 'pipe', name: 'Pipe' },
  ]
  const values = cardValues('groove', {
    form: 'singleV' as Form,
    product: 'plate' as 'plate' | 'pipe',
    thicknessMm: (3 / 8) * INCH,
    bevelDegA: 30,
    bevelDegB: 30,
    rootOpeningMm: INCH / 8,
    rootFaceMm: INCH / 16,
    jRadiusMm: INCH / 8,
    legMm: (5 / 16) * INCH,
    lengthMm: 6 * INCH,
    outsideDiameterMm: 6.625 * INCH,
    strip: false,
    beadWidthMm: (3 / 8) * INCH,
    beadAreaMm2: 16,
    overlap: 0.5,
    fillBelowFlushMm: INCH / 16,
    position: '3G',
  })
  const isFillet = $derived(values.form === 'teeFillet')
  const isSquare = $derived(values.form === 'squareButt')
  const plan = live(
    'groove-plan',
    () => values,
    () =>
      ask(
        api.POST('/api/calc/bead-plan', {
          body: {
            form: values.form,
            thicknessMm: values.thicknessMm,
            bevelDegA: isSquare ? 0 : values.bevelDegA,
            bevelDegB: isSquare ? 0 : values.bevelDegB,
            rootOpeningMm: values.rootOpeningMm,
            rootFaceMm: isSquare ? values.thicknessMm : values.rootFaceMm,
            jRadiusMm: values.form === 'singleJ' ? values.jRadiusMm : null,
            legMm: isFillet ? values.legMm : null,
            strip: values.strip,
            position: values.position,
            layers: null,
            beadAreaMm2: values.beadAreaMm2,
            beadWidthMm: values.beadWidthMm,
            overlap: values.overlap,
            fillBelowFlushMm: values.fillBelowFlushMm,
          },
        }),
      ),
  )
  const metal = live(
    'groove-metal',
    () => values,
    async () =>
      values.form === 'singleV'
        ? ask(
            api.POST('/api/calc/groove', {
              body: {
                thicknessMm: values.thicknessMm,
                bevelDegA: values.bevelDegA,
                bevelDegB: values.bevelDegB,
                rootOpeningMm: values.rootOpeningMm,
                rootFaceMm: values.rootFaceMm,
                reinforcementMm: INCH / 16,
                toeOverlapMm: INCH / 16,
                lengthMm: values.product === 'plate' ? values.lengthMm : null,
                pipeOutsideDiameterMm: values.product === 'pipe' ? values.outsideDiameterMm : null,
                densityKgPerM3: 7850,
              },
            }),
          )
        : null,
  )
</script>

<ShopCard
  id="groove"
  {formulas}
  {values}
  error={plan.error ?? metal.error}
  wide
  room="min-h-[37rem] lg:min-h-[24rem]"
>
  {#snippet fields()}
    <Choice label="Joint" options={FORMS} bind:value={values.form} />
    <LengthField label="Thickness" bind:mm={values.thicknessMm} />
    {#if isFillet}
      <LengthField label="Leg" bind:mm={values.legMm} />
    {:else}
      {#if !isSquare}
        <NumberField label="Bevel, left" unit="°" bind:value={values.bevelDegA} />
        <NumberField label="Bevel, right" unit="°" bind:value={values.bevelDegB} />
        <LengthField label="Root face" bind:mm={values.rootFaceMm} />
      {/if}
      <LengthField label="Gap" bind:mm={values.rootOpeningMm} />
      {#if values.form === 'singleJ'}<LengthField label="Root radius" bind:mm={values.jRadiusMm} />{/if}
      {#if values.form === 'singleV'}
        <Choice label="Along" options={ROUND} bind:value={values.product} />
        {#if values.product === 'plate'}<LengthField label="Length" bind:mm={values.lengthMm} />
        {:else}<LengthField label="Outside diameter" bind:mm={values.outsideDiameterMm} />{/if}
      {/if}
    {/if}
    <LengthField label="Bead width" bind:mm={values.beadWidthMm} />
    <NumberField label="Bead area" of={AREA} bind:value={values.beadAreaMm2} />
    <NumberField label="Overlap, share" bind:value={values.overlap} />
    {#if !isFillet}<LengthField label="Fill now below flush" bind:mm={values.fillBelowFlushMm} />{/if}
  {/snippet}
  {#snippet drawing()}
    {#if plan.data}
      <JointSection section={plan.data.section} />
    {/if}
  {/snippet}
  {#snippet result()}
    {#if plan.data}
      <Row name="Beads by layer">{plan.data.layers.join(' – ')}</Row>
      <Row name="Beads in all">{plan.data.layers.reduce((sum, beads) => sum + beads, 0)}</Row>
      <Row name="Area to fill, with the face">{quantityText(plan.data.neededMm2, AREA)}</Row>
      <Row name="Width at the face"><Len mm={plan.data.section.faceWidthMm} /></Row>
      <Row name="Order">{plan.data.section.order === 'bottomUp' ? 'from the bottom up' : 'side to side'}</Row>
      {#if plan.data.cap && !isFillet}
        <Row name="Cap beads">{plan.data.cap.beads}</Row>
        {#if plan.data.cap.fillFirst}
          <p class="border-t py-1 text-(--caution)">
            The fill is low: short stringers first. A cap started low undercuts.
          </p>
        {:else if plan.data.cap.tooFull}
          <p class="border-t py-1 text-(--caution)">The fill is high: no edge is left to guide the cap.</p>
        {/if}
      {/if}
    {/if}
    {#if metal.data}
      <Row name="Groove volume">{quantityText(metal.data.grooveVolumeMm3, VOLUME)}</Row>
      <Row name="Metal, with a cap of {lengthText(INCH / 16)}">{quantityText(metal.data.massKg, MASS)}</Row>
    {/if}
  {/snippet}
</ShopCard>
