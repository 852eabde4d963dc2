<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import LengthField from '$lib/shop/LengthField.svelte'
  import NumberField from '$lib/shop/NumberField.svelte'
  import { exactText, FLOW, LENGTH, SPEED } from '$lib/units.svelte'
  import { stageName, techniqueName, techniques } from '$lib/words'
  import { blankPass } from './blank'
  import { layersIn, POLARITIES, PROCESSES, RUNS, settingsOf, STAGES } from './choices'
  import Pick from './Pick.svelte'
  import Range from './Range.svelte'
  import Words from './Words.svelte'

  let { test }: { test: Schema['TestTemplate'] } = $props()

  type Setting = keyof Schema['SettingRanges']
  const NAMES: Record<Setting, string> = {
    amps: 'Amps',
    volts: 'Volts',
    wireFeedMmPerMin: 'Wire feed',
    gasFlowLPerMin: 'Gas',
    stickOutMm: 'Stick-out',
    travelAngleDeg: 'Angle along',
    workAngleDeg: 'Angle across',
    cupNumber: 'Cup',
  }
  const UNITS: Partial<Record<Setting, string>> = { volts: 'V', travelAngleDeg: '°', workAngleDeg: '°' }
  const OF = { wireFeedMmPerMin: SPEED, gasFlowLPerMin: FLOW, stickOutMm: LENGTH } as const
  const USUAL: Record<Setting, Schema['Span']> = {
    amps: { min: 100, max: 130 },
    volts: { min: 18, max: 26 },
    wireFeedMmPerMin: { min: 5080, max: 8890 },
    gasFlowLPerMin: { min: 14.16, max: 18.88 },
    stickOutMm: { min: 12.7, max: 19.05 },
    travelAngleDeg: { min: 5, max: 15 },
    workAngleDeg: { min: 40, max: 50 },
    cupNumber: { min: 6, max: 8 },
  }

  function readLayers(pass: Schema['PassPlan'], text: string) {
    const layers = layersIn(text)
    if (layers.length) pass.layers = layers
  }

  // Another process asks for other settings, and lays down its own polarity and gas.
  function turn(pass: Schema['PassPlan'], process: Schema['Process']) {
    const settings: Schema['SettingRanges'] = { amps: pass.settings.amps }
    for (const key of settingsOf(process))
      if (key !== 'workAngleDeg' || test.weld === 'fillet')
        settings[key] = pass.settings[key] ?? { ...USUAL[key] }
    pass.settings = settings
    pass.polarity = process === 'gtaw' || process === 'fcawS' ? 'dcen' : 'dcep'
    pass.gas =
      process === 'gtaw' ? 'Argon' : process === 'gmaw' || process === 'fcawG' ? '75 Ar / 25 CO2' : null
    pass.technique = process === 'gmaw' ? 'shortArc' : 'stringer'
  }

  function add() {
    const taken = test.passes.map((pass) => pass.stage)
    const stage = (['root', 'hot', 'fill', 'cap'] as const).find((one) => !taken.includes(one)) ?? 'fill'
    const like = test.passes.at(-1)
    const pass = like
      ? { ...structuredClone($state.snapshot(like)), stage, layers: [1], note: null }
      : blankPass(stage, [1])
    const order = ['fitUp', 'root', 'hot', 'fill', 'cap']
    const at = test.passes.findIndex((one) => order.indexOf(one.stage) > order.indexOf(stage))
    test.passes.splice(at < 0 ? test.passes.length : at, 0, pass)
  }
</script>

{#each test.passes as pass, index (index)}
  <fieldset class="border-t py-3 first:border-t-0">
    <legend class="sr-only">Pass {index + 1}</legend>
    <div class="flex items-center gap-3 pb-1">
      <strong class="mr-auto text-lg">{stageName(pass.stage)}</strong>
      <button
        type="button"
        class="plate"
        disabled={test.passes.length < 2}
        aria-label="Leave out pass {index + 1}"
        onclick={() => test.passes.splice(index, 1)}>Leave out</button
      >
    </div>
    <div class="grid grid-cols-2 gap-3 md:grid-cols-4">
      <Pick label="Stage" options={STAGES} bind:value={pass.stage} />
      <Pick
        label="Process"
        options={PROCESSES}
        bind:value={pass.process}
        onpick={(process) => turn(pass, process)}
      />
      <Words label="Filler" most={20} narrow bind:value={pass.filler.classification} />
      <LengthField
        label="Filler size"
        bind:mm={
          () => pass.filler.diameterMm,
          (mm) => {
            pass.filler.diameterMm = mm
            pass.filler.diameterText = exactText(mm, 'in')
          }
        }
      />
      <NumberField label="F-number" bind:value={pass.filler.fNumber} />
      <Pick label="Polarity" options={POLARITIES} bind:value={pass.polarity} />
      <Pick label="Run" options={RUNS} bind:value={pass.progression} />
      <label>
        <span class="eyebrow block">Technique</span>
        <select class="field w-full" bind:value={pass.technique}>
          {#each techniques as technique (technique)}
            <option value={technique}>{techniqueName(technique)}</option>
          {/each}
        </select>
      </label>
      <label>
        <span class="eyebrow block">Beads in each layer</span>
        <input
          class="field number w-full text-xl"
          value={pass.layers.join(' ')}
          onchange={(event) => readLayers(pass, event.currentTarget.value)}
        />
      </label>
      <NumberField label="Bead size, 1 as the others" bind:value={pass.beadShare} />
      {#if pass.process !== 'smaw' && pass.process !== 'fcawS'}
        <Words
          label="Gas"
          most={40}
          narrow
          bind:value={() => pass.gas ?? '', (text) => (pass.gas = text || null)}
        />
      {/if}
      {#each ['amps', ...settingsOf(pass.process)] as Setting[] as key (key)}
        {@const span = pass.settings[key]}
        {#if span}
          <div class="col-span-2">
            <Range
              label={NAMES[key]}
              unit={key === 'amps' ? 'A' : UNITS[key]}
              of={key in OF ? OF[key as keyof typeof OF] : undefined}
              {span}
            />
          </div>
        {:else}
          <button
            type="button"
            class="plate self-end"
            onclick={() => (pass.settings[key] = { ...USUAL[key] })}>Add {NAMES[key].toLowerCase()}</button
          >
        {/if}
      {/each}
      <Words
        label="Said beside it"
        bind:value={() => pass.note ?? '', (text) => (pass.note = text || null)}
      />
    </div>
  </fieldset>
{/each}
<button type="button" class="plate mb-2" onclick={add}>Add a pass</button>
