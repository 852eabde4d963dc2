<script lang="ts">
  import { api, ask, type Schema } from '$lib/api/client'
  import { live } from './live'
  import NumberField from './NumberField.svelte'
  import Row from './Row.svelte'
  import ShopCard from './ShopCard.svelte'
  import { cardValues } from './values.svelte'

  let { formulas }: { formulas: Schema['Formula'][] } = $props()
  const values = cardValues('bevel', { bevelDegA: 37.5, bevelDegB: 37.5 })
  const answer = live(
    'bevel',
    () => values,
    () =>
      ask(
        api.POST('/api/calc/groove', {
          body: {
            ...values,
            thicknessMm: 10,
            rootOpeningMm: 0,
            rootFaceMm: 0,
            reinforcementMm: 0,
            toeOverlapMm: 0,
            lengthMm: 1,
            pipeOutsideDiameterMm: null,
            densityKgPerM3: 7850,
          },
        }),
      ),
  )
  const rad = (deg: number) => (deg * Math.PI) / 180
  const edge = $derived(Math.tan(rad(Math.min(75, Math.max(0, values.bevelDegA)))) * 34)
  const arc = $derived({
    x: 60 - edge + 26 * Math.cos(rad(90 - values.bevelDegA)),
    y: 26 + 26 * Math.sin(rad(90 - values.bevelDegA)),
  })
</script>

<ShopCard id="bevel" {formulas} {values} error={answer.error}>
  {#snippet fields()}
    <NumberField label="Bevel, one side" unit="°" bind:value={values.bevelDegA} />
    <NumberField label="Bevel, other side" unit="°" bind:value={values.bevelDegB} />
  {/snippet}
  {#snippet drawing()}
    <svg viewBox="0 0 150 76" class="w-full" role="img" aria-label="A protractor laid on the plate face">
      <path d="M2,26 H{60 - edge} L60,60 H2Z" fill="var(--steel)" stroke="var(--ink)" stroke-width="1.2" />
      <path
        d="M{34 - edge},26 A26 26 0 0 1 {86 - edge},26Z"
        fill="none"
        stroke="var(--cold)"
        stroke-width="1.2"
      />
      <path
        d="M{86 - edge},26 A26 26 0 0 1 {arc.x},{arc.y}"
        fill="none"
        stroke="var(--bronze)"
        stroke-width="2.5"
      />
      <line x1={60 - edge} y1="26" x2="112" y2="26" stroke="var(--cold)" stroke-dasharray="3 3" />
      <text x={90 - edge} y="46" class="number" font-size="12" fill="var(--ink)"
        >{answer.data?.protractorDegA ?? ''}°</text
      >
    </svg>
  {/snippet}
  {#snippet result()}
    {#if answer.data}
      <Row name="Protractor on the face">{answer.data.protractorDegA}° / {answer.data.protractorDegB}°</Row>
      <Row name="Included angle">{answer.data.includedAngleDeg}°</Row>
    {/if}
  {/snippet}
</ShopCard>
