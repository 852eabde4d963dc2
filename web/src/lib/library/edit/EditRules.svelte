<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import LengthField from '$lib/shop/LengthField.svelte'
  import { grinderName, grinders } from '../text'
  import { idFrom, SPECIMENS, STAGES } from './choices'
  import Pick from './Pick.svelte'
  import Words from './Words.svelte'

  type Props = { test: Schema['TestTemplate']; cuts: Schema['CutBy'][]; cut: (code: string) => void }
  let { test, cuts, cut }: Props = $props()
  const rules = $derived(test.rules)
  type Point = { id: string; title: string; stage: Schema['Stage'] | null }
  const points = $derived(rules.holdPoints as Point[])
  const WHEN: [string, string][] = [['', 'at any time'], ['fitUp', 'Fit-up'], ...STAGES]
  const taken = $derived(cuts.find((one) => one.code === test.code))
</script>

<div class="flex flex-wrap items-end gap-3 py-2">
  <label>
    <span class="eyebrow block">Grinder</span>
    <select class="field" bind:value={rules.grinder}>
      {#each grinders as rule (rule)}<option value={rule}>{grinderName(rule)}</option>{/each}
    </select>
  </label>
  <label>
    <span class="eyebrow block">Minutes (empty: no limit)</span>
    <input
      class="field number w-28 text-xl"
      inputmode="numeric"
      value={rules.timeLimitMinutes ?? ''}
      onchange={(event) => {
        const minutes = Math.round(Number(event.currentTarget.value))
        rules.timeLimitMinutes = minutes > 0 ? minutes : null
      }}
    />
  </label>
  <button
    type="button"
    class="plate"
    aria-pressed={rules.arcStrikeOutsideFails}
    onclick={() => (rules.arcStrikeOutsideFails = !rules.arcStrikeOutsideFails)}
    >Arc strike outside fails</button
  >
  <button
    type="button"
    class="plate"
    aria-pressed={rules.stringersOnly}
    onclick={() => (rules.stringersOnly = !rules.stringersOnly)}>Stringers only</button
  >
  <button
    type="button"
    class="plate"
    aria-pressed={rules.takeDownAllowed}
    onclick={() => (rules.takeDownAllowed = !rules.takeDownAllowed)}>May be taken down</button
  >
  <button
    type="button"
    class="plate"
    aria-pressed={rules.helpAllowed}
    onclick={() => (rules.helpAllowed = !rules.helpAllowed)}>Help allowed</button
  >
</div>
<p class="eyebrow border-t pt-2">Where the inspector looks first</p>
{#each points as point, index (point.id)}
  <fieldset class="grid grid-cols-[1fr_9rem_auto] items-end gap-2 py-1">
    <legend class="sr-only">Hold point {index + 1}</legend>
    <Words label="Hold point" most={80} narrow bind:value={point.title} />
    <Pick
      label="When"
      options={WHEN}
      value={point.stage ?? ''}
      onpick={(stage) => (point.stage = (stage || null) as Schema['Stage'] | null)}
    />
    <button type="button" class="plate" onclick={() => rules.holdPoints.splice(index, 1)}>Leave out</button>
  </fieldset>
{/each}
<button
  type="button"
  class="plate mb-2"
  onclick={() =>
    (rules.holdPoints as Point[]).push({
      id: idFrom(
        'hold',
        points.map((one) => one.id),
      ),
      title: 'Root',
      stage: 'root',
    })}>Add a hold point</button
>
<p class="eyebrow border-t pt-2">Specimens</p>
{#each test.specimens as specimen, index (index)}
  <fieldset class="grid grid-cols-2 items-end gap-2 py-1 md:grid-cols-[1fr_8rem_8rem_auto]">
    <legend class="sr-only">Specimen {index + 1}</legend>
    <Pick label="Kind" options={SPECIMENS} bind:value={specimen.kind} />
    {#if test.joint.pipe}
      <Words
        label="O'clock"
        most={5}
        narrow
        bind:value={() => specimen.clock ?? '', (text) => (specimen.clock = text || null)}
      />
      <span></span>
    {:else}
      <LengthField label="From" bind:mm={() => specimen.fromMm ?? 0, (mm) => (specimen.fromMm = mm)} />
      <LengthField label="To" bind:mm={() => specimen.toMm ?? 0, (mm) => (specimen.toMm = mm)} />
    {/if}
    <button type="button" class="plate" onclick={() => test.specimens.splice(index, 1)}>Leave out</button>
  </fieldset>
{/each}
<div class="flex flex-wrap gap-2 pb-2">
  {#if taken}
    <button type="button" class="plate" onclick={() => cut(test.code)}>As the code cuts it</button>
  {/if}
  <button
    type="button"
    class="plate"
    onclick={() =>
      test.specimens.push(
        test.joint.pipe
          ? { kind: 'root', fromMm: null, toMm: null, clock: '3:00' }
          : { kind: 'root', fromMm: 25.4, toMm: 63.5, clock: null },
      )}>Add a specimen</button
  >
</div>
<p class="eyebrow border-t pt-2">Drills</p>
{#each test.drills as drill, index (drill.id)}
  <fieldset class="flex flex-wrap items-end gap-2 py-1">
    <legend class="sr-only">Drill {index + 1}</legend>
    <div class="min-w-48 grow"><Words label="Drill" most={60} narrow bind:value={drill.name} /></div>
    {#each WHEN.slice(1) as [stage, name] (stage)}
      {@const has = drill.stages.includes(stage as Schema['Stage'])}
      <button
        type="button"
        class="plate px-2"
        aria-pressed={has}
        onclick={() => {
          const next = has
            ? drill.stages.filter((one) => one !== stage)
            : [...drill.stages, stage as Schema['Stage']]
          if (next.length) drill.stages = next
        }}>{name}</button
      >
    {/each}
    <button type="button" class="plate" onclick={() => test.drills.splice(index, 1)}>Leave out</button>
  </fieldset>
{/each}
<button
  type="button"
  class="plate mb-2"
  onclick={() =>
    test.drills.push({
      id: idFrom(
        'drill',
        test.drills.map((one) => one.id),
      ),
      name: 'Cap only, on a filled blank',
      stages: ['cap'],
      zone: null,
      repair: null,
    })}>Add a drill</button
>
<p class="eyebrow border-t pt-2">Cautions of this test alone</p>
{#each test.cautions as caution, index (index)}
  <fieldset class="grid grid-cols-[1fr_9rem_auto] items-end gap-2 py-1">
    <legend class="sr-only">Caution {index + 1}</legend>
    <Words label="Caution" most={200} narrow bind:value={caution.text} />
    <Pick
      label="When"
      options={WHEN}
      value={caution.stage ?? ''}
      onpick={(stage) => (caution.stage = (stage || null) as Schema['Stage'] | null)}
    />
    <button type="button" class="plate" onclick={() => test.cautions.splice(index, 1)}>Leave out</button>
  </fieldset>
{/each}
<button
  type="button"
  class="plate mb-2"
  onclick={() => test.cautions.push({ text: '', stage: null, source: "The school's own" })}
  >Add a caution</button
>
