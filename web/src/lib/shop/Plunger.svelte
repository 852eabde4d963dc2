<script lang="ts">
  import { api, ask, type Schema } from '$lib/api/client'
  import Len from '$lib/parts/Len.svelte'
  import { MM_PER_INCH as INCH } from '$lib/units.svelte'
  import { codeName } from '$lib/words'
  import LengthField from './LengthField.svelte'
  import { live } from './live'
  import NumberField from './NumberField.svelte'
  import Row from './Row.svelte'
  import ShopCard from './ShopCard.svelte'
  import { cardValues } from './values.svelte'

  let { formulas }: { formulas: Schema['Formula'][] } = $props()
  const values = cardValues('plunger', {
    row: 'aws-d1.1 to50',
    specimenThicknessMm: (3 / 8) * INCH,
    elongationPercent: 15,
  })
  const answer = live(
    'plunger',
    () => values,
    () => {
      const [code, group] = values.row.split(' ')
      return ask(
        api.POST('/api/calc/plunger', {
          body: {
            code: code!,
            group: group!,
            specimenThicknessMm: values.specimenThicknessMm,
            elongationPercent: values.elongationPercent,
          },
        }),
      )
    },
  )
  const groups = $derived(answer.data?.groups ?? [])
  const codes = $derived([...new Set(groups.map((one) => one.code))])
  const chosen = $derived(groups.find((one) => `${one.code} ${one.group}` === values.row))
  const scale = $derived(70 / Math.max(1, answer.data?.dieGapMm ?? 1))
  const inner = $derived(((answer.data?.plungerMm ?? 0) / 2) * scale)
  const outer = $derived(inner + values.specimenThicknessMm * scale)
</script>

<ShopCard id="plunger" {formulas} {values} error={answer.error}>
  {#snippet fields()}
    <label class="col-span-full">
      <span class="eyebrow block">Code and metal</span>
      <select class="field w-full" bind:value={values.row}>
        {#if !groups.length}<option value={values.row}>{values.row}</option>{/if}
        {#each codes as code (code)}
          <optgroup label={codeName(code)}>
            {#each groups.filter((one) => one.code === code) as one (one.group)}
              <option value="{one.code} {one.group}">{one.name}</option>
            {/each}
          </optgroup>
        {/each}
      </select>
    </label>
    <LengthField label="Specimen thickness" bind:mm={values.specimenThicknessMm} />
    {#if chosen?.needsElongation}
      <NumberField label="Elongation A" unit="%" bind:value={values.elongationPercent} />
    {/if}
  {/snippet}
  {#snippet drawing()}
    {#if answer.data}
      <svg viewBox="0 0 150 80" class="w-full" role="img" aria-label="Plunger, strap and die, to scale">
        {#each [-1, 1] as side (side)}
          <rect
            x={75 + (side * answer.data.dieGapMm * scale) / 2 - (side < 0 ? 20 : 0)}
            y="34"
            width="20"
            height="42"
            fill="var(--plate)"
            stroke="var(--ink)"
          />
        {/each}
        <path
          d="M{75 - outer},4 V30 A{outer} {outer} 0 0 0 {75 + outer},30 V4 H{75 +
            inner} V30 A{inner} {inner} 0 0 1 {75 - inner},30 V4Z"
          fill="var(--bronze)"
          stroke="var(--ink)"
        />
        <path
          d="M{75 - inner},4 V30 A{inner} {inner} 0 0 0 {75 + inner},30 V4Z"
          fill="var(--steel)"
          stroke="var(--ink)"
        />
      </svg>
    {/if}
  {/snippet}
  {#snippet result()}
    {#if answer.data}
      <Row name="Plunger diameter"><Len mm={answer.data.plungerMm} /></Row>
      <Row name="Die gap"><Len mm={answer.data.dieGapMm} /></Row>
      <Row name="Outer strain">{answer.data.outerStrainPercent.toFixed(1)} %</Row>
      <p class="text-sm text-(--soft)">
        {answer.data.source}; {answer.data.confidence} % sure. Bend only cold coupons, hands off the ram.
      </p>
    {/if}
  {/snippet}
</ShopCard>
