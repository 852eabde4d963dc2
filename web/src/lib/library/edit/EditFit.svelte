<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import LengthField from '$lib/shop/LengthField.svelte'
  import NumberField from '$lib/shop/NumberField.svelte'
  import { fitUpMeasureName } from '../text'
  import { idFrom } from './choices'
  import Pick from './Pick.svelte'
  import Words from './Words.svelte'

  let { test }: { test: Schema['TestTemplate'] } = $props()
  const ALL: Schema['FitUpMeasure'][] = [
    'rootOpeningMm',
    'rootFaceMm',
    'offsetMm',
    'includedAngleDeg',
    'bevelDegA',
    'bevelDegB',
    'stripGapMm',
    'ringGapMm',
  ]
  const left = $derived(
    ALL.filter((one) => !test.fitUp.tolerances.some((tolerance) => tolerance.measure === one)),
  )
  function add(measure: Schema['FitUpMeasure']) {
    const angle = measure.includes('Deg')
    test.fitUp.tolerances.push({
      measure,
      min: angle ? 40 : 0,
      max: angle ? 55 : 1.5875,
      warnAbove: null,
      mendLow: null,
      mendHigh: null,
      source: "The school's own",
      fromMemory: false,
    })
  }
  function ask() {
    const text = 'A new question?'
    test.fitUp.questions.push({
      id: idFrom(
        'question',
        test.fitUp.questions.map((one) => one.id),
      ),
      text,
      mend: '',
      source: "The school's own",
    })
  }
</script>

{#each test.fitUp.tolerances as tolerance, index (tolerance.measure)}
  <fieldset class="grid grid-cols-2 items-end gap-3 border-t py-2 first:border-t-0 md:grid-cols-4">
    <legend class="sr-only">{fitUpMeasureName(tolerance.measure)}</legend>
    <strong class="self-center first-letter:uppercase">{fitUpMeasureName(tolerance.measure)}</strong>
    {#if tolerance.measure.includes('Deg')}
      <NumberField label="Least" unit="°" bind:value={tolerance.min} />
      <NumberField label="Most" unit="°" bind:value={tolerance.max} />
    {:else}
      <LengthField label="Least" bind:mm={tolerance.min} />
      <LengthField label="Most" bind:mm={tolerance.max} />
    {/if}
    <button type="button" class="plate" onclick={() => test.fitUp.tolerances.splice(index, 1)}
      >Leave out</button
    >
    <div class="col-span-full grid gap-3 md:grid-cols-2">
      <Words
        label="Said when it is under"
        narrow
        bind:value={() => tolerance.mendLow ?? '', (text) => (tolerance.mendLow = text || null)}
      />
      <Words
        label="Said when it is over"
        narrow
        bind:value={() => tolerance.mendHigh ?? '', (text) => (tolerance.mendHigh = text || null)}
      />
    </div>
  </fieldset>
{/each}
{#if left.length}
  <div class="max-w-xs pb-2">
    <Pick
      label="Measure something more"
      options={[['', 'Choose'], ...left.map((one): [string, string] => [one, fitUpMeasureName(one)])]}
      value=""
      onpick={(measure) => measure && add(measure as Schema['FitUpMeasure'])}
    />
  </div>
{/if}
<fieldset class="grid grid-cols-2 gap-3 border-t py-2 md:grid-cols-4">
  <legend class="eyebrow">Tacks</legend>
  <NumberField label="At least" bind:value={test.fitUp.tacks.minCount} />
  <NumberField label="At most" bind:value={test.fitUp.tacks.maxCount} />
  <LengthField label="Shortest" bind:mm={test.fitUp.tacks.minLengthMm} />
  <LengthField label="Longest" bind:mm={test.fitUp.tacks.maxLengthMm} />
  <Words label="Where" bind:value={test.fitUp.tacks.where} />
  <button
    type="button"
    class="plate"
    aria-pressed={test.fitUp.tacks.feathered}
    onclick={() => (test.fitUp.tacks.feathered = !test.fitUp.tacks.feathered)}>Feathered</button
  >
</fieldset>
{#each test.fitUp.questions as question, index (question.id)}
  <fieldset class="grid gap-2 border-t py-2 md:grid-cols-[1fr_1fr_auto]">
    <legend class="sr-only">Question {index + 1}</legend>
    <Words label="Asked before the arc" narrow bind:value={question.text} />
    <Words label="What mends a no" narrow bind:value={question.mend} />
    <button type="button" class="plate self-end" onclick={() => test.fitUp.questions.splice(index, 1)}
      >Leave out</button
    >
  </fieldset>
{/each}
<button type="button" class="plate mb-2" onclick={ask}>Ask something more</button>
