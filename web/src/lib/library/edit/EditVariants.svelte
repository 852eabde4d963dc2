<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { pipeSizesQuery } from '$lib/queries'
  import LengthField from '$lib/shop/LengthField.svelte'
  import NumberField from '$lib/shop/NumberField.svelte'
  import { exactText } from '$lib/units.svelte'
  import { stageName, techniqueName, techniques } from '$lib/words'
  import { idFrom, layersIn, POSITIONS } from './choices'
  import Pick from './Pick.svelte'
  import Range from './Range.svelte'
  import Words from './Words.svelte'

  let { test }: { test: Schema['TestTemplate'] } = $props()
  type Option = Schema['VariantOption']
  type Size = 'thicknessMm' | 'rootOpeningMm' | 'rootFaceMm' | 'legMm' | 'bevelDegA' | 'bevelDegB'
  const SIZES: [Size, string][] = [
    ['thicknessMm', 'Thickness'],
    ['rootOpeningMm', 'Gap'],
    ['rootFaceMm', 'Root face'],
    ['legMm', 'Leg'],
    ['bevelDegA', 'Bevel, left'],
    ['bevelDegB', 'Bevel, right'],
  ]
  const pipes = pipeSizesQuery()
  const sizesOfPipe = $derived(
    (pipes.data?.sizes ?? []).flatMap((one) =>
      one.walls.map((wall): [string, string] => [
        `${one.nps} ${wall.schedule}`,
        `NPS ${one.nps} Sch ${wall.schedule}`,
      ]),
    ),
  )
  function pipe(option: Option, size: string) {
    const [nps, schedule] = size.split(' ')
    const joint = { ...(option.joint ?? {}), pipe: size ? { nps: nps!, schedule: schedule! } : null }
    option.joint = Object.values(joint).some((value) => value != null)
      ? (joint as Schema['JointChange'])
      : null
  }
  const stages = $derived([...new Set(test.passes.map((pass) => pass.stage))])

  const blank = (name: string, taken: string[]): Option => ({
    id: idFrom(name, taken),
    name,
    position: null,
    baseMetal: null,
    weld: null,
    joint: null,
    passChanges: null,
    specimens: null,
    fitUp: null,
    halvesBy: null,
    sidesBy: null,
    restartBy: null,
  })
  function addGroup() {
    const id = idFrom(
      'choice',
      test.variants.map((one) => one.id),
    )
    test.variants.push({
      id,
      name: 'A choice',
      options: [blank('As above', []), blank('Otherwise', ['asAbove'])],
    })
  }
  const changeOf = (option: Option, stage: Schema['Stage']) =>
    option.passChanges?.find((one) => one.stage === stage && one.half == null)
  function change(option: Option, stage: Schema['Stage'], what: Partial<Schema['PassChange']>) {
    const found = changeOf(option, stage)
    if (found) Object.assign(found, what)
    else
      option.passChanges = [
        ...(option.passChanges ?? []),
        {
          stage,
          half: null,
          layers: null,
          technique: null,
          progression: null,
          process: null,
          filler: null,
          polarity: null,
          gas: null,
          settings: null,
          note: null,
          ...what,
        },
      ]
    option.passChanges = (option.passChanges ?? []).filter((one) =>
      Object.entries(one).some(([key, value]) => key !== 'stage' && key !== 'half' && value != null),
    )
  }
  function size(option: Option, key: Size) {
    const base = test.joint[key] ?? 6.35
    option.joint = { ...(option.joint ?? {}), [key]: base } as Schema['JointChange']
  }
  function drop(option: Option, key: Size) {
    const joint = { ...(option.joint ?? {}), [key]: null } as Record<string, unknown>
    option.joint = Object.values(joint).some((value) => value != null)
      ? (joint as Schema['JointChange'])
      : null
  }
  /** What an option changes that is not changed here: kept as it is. */
  const more = (option: Option) =>
    [
      option.fitUp ? 'fit-up' : null,
      option.specimens ? 'specimens' : null,
      option.baseMetal ? 'metal' : null,
      option.passChanges?.some((one) => one.process) ? 'process' : null,
      option.restartBy ? 'restart' : null,
    ].filter(Boolean)
</script>

{#each test.variants as group, at (group.id)}
  <fieldset class="border-t py-3 first:border-t-0">
    <legend class="sr-only">Choice {at + 1}</legend>
    <div class="flex items-end gap-3">
      <div class="grow"><Words label="What differs" most={60} narrow bind:value={group.name} /></div>
      <button type="button" class="plate" onclick={() => test.variants.splice(at, 1)}>Leave out</button>
    </div>
    {#each group.options as option, index (option.id)}
      <div class="mt-2 border-l-4 border-(--line) pl-3">
        <div class="flex items-end gap-3">
          <div class="grow">
            <Words
              label={index === 0 ? 'As the test stands' : `Or, ${index}`}
              most={80}
              narrow
              bind:value={option.name}
            />
          </div>
          {#if index > 0 && group.options.length > 2}
            <button type="button" class="plate" onclick={() => group.options.splice(index, 1)}
              >Leave out</button
            >
          {/if}
        </div>
        <details class="mt-1">
          <summary class="bare cursor-pointer">What it changes</summary>
          <div class="grid grid-cols-2 gap-3 py-2 md:grid-cols-4">
            <Pick
              label="Position"
              options={[['', 'as it stands'], ...POSITIONS.map((one): [string, string] => [one, one])]}
              value={option.position ?? ''}
              onpick={(position) => (option.position = position || null)}
            />
            {#if test.joint.pipe}
              <Pick
                label="Pipe"
                options={[['', 'as it stands'], ...sizesOfPipe]}
                value={option.joint?.pipe ? `${option.joint.pipe.nps} ${option.joint.pipe.schedule}` : ''}
                onpick={(size) => pipe(option, size)}
              />
            {/if}
            {#each SIZES as [key, name] (key)}
              {#if option.joint?.[key] != null}
                <div>
                  {#if key.endsWith('Mm')}
                    <LengthField
                      label={name}
                      bind:mm={() => option.joint![key] ?? 0, (mm) => (option.joint![key] = mm)}
                    />
                  {:else}
                    <NumberField
                      label={name}
                      unit="°"
                      bind:value={() => option.joint![key] ?? 0, (value) => (option.joint![key] = value)}
                    />
                  {/if}
                  <button type="button" class="bare text-sm" onclick={() => drop(option, key)}
                    >as it stands</button
                  >
                </div>
              {/if}
            {/each}
            <Pick
              label="Another size"
              options={[
                ['', 'Choose'],
                ...SIZES.filter(([key]) => option.joint?.[key] == null).map(
                  ([key, name]): [string, string] => [key, name],
                ),
              ]}
              value=""
              onpick={(key) => key && size(option, key as Size)}
            />
            {#each stages as stage (stage)}
              {@const now = changeOf(option, stage)}
              <div class="col-span-full grid grid-cols-2 gap-3 border-t pt-2 md:grid-cols-4">
                <strong class="self-center">{stageName(stage)}</strong>
                <label>
                  <span class="eyebrow block">Beads (empty: as it stands)</span>
                  <input
                    class="field number w-full"
                    value={now?.layers?.join(' ') ?? ''}
                    placeholder={test.passes.find((pass) => pass.stage === stage)?.layers.join(' ')}
                    onchange={(event) => {
                      const layers = layersIn(event.currentTarget.value)
                      change(option, stage, { layers: layers.length ? layers : null })
                    }}
                  />
                </label>
                <Pick
                  label="Technique"
                  options={[
                    ['', 'as it stands'],
                    ...techniques.map((one): [string, string] => [one, techniqueName(one)]),
                  ]}
                  value={now?.technique ?? ''}
                  onpick={(technique) =>
                    change(option, stage, {
                      technique: (technique || null) as Schema['BeadTechnique'] | null,
                    })}
                />
                {#if now?.filler}
                  <Words label="Filler" most={20} narrow bind:value={now.filler.classification} />
                  <LengthField
                    label="Its size"
                    bind:mm={
                      () => now.filler!.diameterMm,
                      (mm) => {
                        now.filler!.diameterMm = mm
                        now.filler!.diameterText = exactText(mm, 'in')
                      }
                    }
                  />
                {:else}
                  <button
                    type="button"
                    class="plate self-end"
                    onclick={() =>
                      change(option, stage, {
                        filler: structuredClone(
                          $state.snapshot(test.passes.find((pass) => pass.stage === stage)!.filler),
                        ),
                      })}>Another filler</button
                  >
                {/if}
                {#if now?.settings}
                  <Range label="Amps" unit="A" span={now.settings.amps} />
                {:else}
                  <button
                    type="button"
                    class="plate self-end"
                    onclick={() =>
                      change(option, stage, {
                        settings: structuredClone(
                          $state.snapshot(test.passes.find((pass) => pass.stage === stage)!.settings),
                        ),
                      })}>Other amps</button
                  >
                {/if}
              </div>
            {/each}
            {#if more(option).length}
              <p class="col-span-full text-sm text-(--soft)">
                It changes the {more(option).join(', ')} too; that stays as it is, and can be changed in the file.
              </p>
            {/if}
          </div>
        </details>
      </div>
    {/each}
    <button
      type="button"
      class="plate mt-2"
      onclick={() =>
        group.options.push(
          blank(
            'Another way',
            group.options.map((one) => one.id),
          ),
        )}>Another way</button
    >
  </fieldset>
{/each}
<button type="button" class="plate mb-2" onclick={addGroup}>Add a choice</button>
