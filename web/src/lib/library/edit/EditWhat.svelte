<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { pipeSizesQuery, profilesQuery } from '$lib/queries'
  import LengthField from '$lib/shop/LengthField.svelte'
  import NumberField from '$lib/shop/NumberField.svelte'
  import { celsius, degrees, degreeUnit, MM_PER_INCH as INCH } from '$lib/units.svelte'
  import { BACKINGS, FORMS, METALS, positionsFor, PRODUCTS, RUNS, WELDS } from './choices'
  import Pick from './Pick.svelte'

  let { test, isNew }: { test: Schema['TestTemplate']; isNew: boolean } = $props()
  const profiles = profilesQuery()
  const pipes = pipeSizesQuery()
  const walls = $derived(pipes.data?.sizes.find((one) => one.nps === test.joint.pipe?.nps)?.walls ?? [])
  const joint = $derived(test.joint)
  const isFillet = $derived(joint.form === 'teeFillet' || joint.form === 'lapFillet')

  // A pipe brings its wall, its clock and no length; a plate its two ends.
  function become(product: Schema['Product']) {
    const isPipe = product === 'pipe'
    if (isPipe === (joint.pipe !== null)) return
    if (isPipe) size('6', '80')
    else Object.assign(joint, { pipe: null, thicknessMm: (3 / 8) * INCH, lengthMm: 6 * INCH })
    if (isPipe) joint.lengthMm = null
    test.fitUp.points = isPipe ? ['12', '3', '6', '9'] : ['start', 'end']
    test.positions = [isPipe ? '6G' : '1G']
    test.specimens = []
  }
  function size(nps: string, schedule: string) {
    const found = pipes.data?.sizes.find((one) => one.nps === nps)?.walls
    const wall = found?.find((one) => one.schedule === schedule) ?? found?.[0]
    joint.pipe = { nps, schedule: wall?.schedule ?? schedule }
    if (wall) joint.thicknessMm = wall.wallMm
  }
  function form(now: Schema['JointForm']) {
    joint.legMm = now === 'teeFillet' || now === 'lapFillet' ? (joint.legMm ?? INCH / 4) : null
    joint.jRadiusMm = now === 'singleJ' ? (joint.jRadiusMm ?? (3 / 16) * INCH) : null
    if (joint.legMm) test.weld = test.weld === 'tack' ? 'tack' : 'fillet'
    else test.weld = now === 'plug' ? 'plug' : 'groove'
    if (now === 'squareButt') joint.rootFaceMm = joint.thicknessMm
    if (now === 'plug')
      Object.assign(joint, {
        bevelDegA: 0,
        bevelDegB: 0,
        rootFaceMm: 0,
        rootOpeningMm: 0.75 * INCH,
        lengthMm: 0.75 * INCH,
      })
    if (joint.legMm && !/F/.test(test.positions[0]!)) test.positions = ['2F']
    if (!joint.legMm && /F/.test(test.positions[0]!)) test.positions = ['1G']
  }
  function backing(kind: Schema['BackingKind']) {
    joint.backing =
      kind === 'strip'
        ? { kind, thicknessMm: INCH / 4, widthMm: INCH, overhangMm: INCH }
        : { kind, thicknessMm: null, widthMm: null, overhangMm: null }
    joint.insert =
      kind === 'insert' ? { shape: 'Ring', maxRingGapMm: 0.8, tackPitchMinMm: 38, tackPitchMaxMm: 51 } : null
  }
  const toggle = (position: string) => {
    const has = test.positions.includes(position)
    if (has && test.positions.length > 1) test.positions = test.positions.filter((one) => one !== position)
    else if (!has) test.positions = [...test.positions, position]
  }
  const fitting = $derived(positionsFor(test.product, isFillet))
</script>

<div class="grid gap-3 sm:grid-cols-[7rem_1fr_12rem]">
  <label>
    <span class="eyebrow block">Id</span>
    <input
      class="field number w-full text-xl disabled:opacity-60"
      maxlength="12"
      disabled={!isNew}
      bind:value={test.id}
    />
  </label>
  <label>
    <span class="eyebrow block">Title</span>
    <input class="field w-full" maxlength="120" bind:value={test.title} />
  </label>
  <label>
    <span class="eyebrow block">Judged by</span>
    <select class="field w-full" bind:value={test.code}>
      {#each profiles.data ?? [] as profile (profile.id)}
        <option value={profile.id}>{profile.name}</option>
      {/each}
    </select>
  </label>
</div>
<fieldset class="grid grid-cols-2 gap-3 py-3 md:grid-cols-4">
  <legend class="sr-only">Joint</legend>
  <Pick label="Made of" options={PRODUCTS} bind:value={test.product} onpick={become} />
  <Pick label="Joint" options={FORMS} bind:value={joint.form} onpick={form} />
  <Pick label="Weld" options={WELDS} bind:value={test.weld} />
  <Pick label="Metal" options={METALS} bind:value={test.baseMetal} />
  {#if joint.pipe}
    <Pick
      label="Pipe size"
      options={(pipes.data?.sizes ?? []).map((one): [string, string] => [
        one.nps,
        `NPS ${one.nps}, DN ${one.dn}`,
      ])}
      value={joint.pipe.nps}
      onpick={(nps) => size(nps, joint.pipe!.schedule)}
    />
    <Pick
      label="Schedule"
      options={walls.map((one): [string, string] => [one.schedule, one.schedule])}
      value={joint.pipe.schedule}
      onpick={(schedule) => size(joint.pipe!.nps, schedule)}
    />
  {:else}
    <LengthField label="Thickness" bind:mm={joint.thicknessMm} />
    {#if joint.lengthMm != null}
      <LengthField
        label="Length of the joint"
        bind:mm={() => joint.lengthMm ?? 0, (mm) => (joint.lengthMm = mm)}
      />
    {/if}
  {/if}
  {#if joint.form === 'singleV' || joint.form === 'singleJ' || joint.form === 'branch'}
    <NumberField label="Bevel, left" unit="°" bind:value={joint.bevelDegA} />
    <NumberField label="Bevel, right" unit="°" bind:value={joint.bevelDegB} />
    <LengthField label="Root face" bind:mm={joint.rootFaceMm} />
  {/if}
  {#if joint.jRadiusMm != null}
    <LengthField label="Radius" bind:mm={() => joint.jRadiusMm ?? 0, (mm) => (joint.jRadiusMm = mm)} />
  {/if}
  {#if isFillet}
    <LengthField label="Leg" bind:mm={() => joint.legMm ?? 0, (mm) => (joint.legMm = mm)} />
  {:else}
    <LengthField label={joint.form === 'plug' ? 'Hole' : 'Gap'} bind:mm={joint.rootOpeningMm} />
    <Pick
      label="Behind the root"
      options={BACKINGS}
      value={joint.backing.kind}
      onpick={(kind) => backing(kind)}
    />
  {/if}
  {#if joint.backing.kind === 'strip'}
    <LengthField
      label="Strip thickness"
      bind:mm={() => joint.backing.thicknessMm ?? 0, (mm) => (joint.backing.thicknessMm = mm)}
    />
    <LengthField
      label="Strip width"
      bind:mm={() => joint.backing.widthMm ?? 0, (mm) => (joint.backing.widthMm = mm)}
    />
  {/if}
  <LengthField label={joint.pipe ? 'Length of each nipple' : 'Width of each plate'} bind:mm={joint.widthMm} />
  <Pick label="Run" options={RUNS} bind:value={test.progression} />
  {#if test.temperatures}
    <NumberField
      label="Preheat at least"
      unit={degreeUnit()}
      bind:value={
        () => Math.round(degrees(test.temperatures!.preheatMinC ?? 20)),
        (shown) => (test.temperatures!.preheatMinC = celsius(shown))
      }
    />
    <NumberField
      label="Between passes at most"
      unit={degreeUnit()}
      bind:value={
        () => Math.round(degrees(test.temperatures!.interpassMaxC ?? 250)),
        (shown) => (test.temperatures!.interpassMaxC = celsius(shown))
      }
    />
    <button type="button" class="plate self-end" onclick={() => (test.temperatures = null)}
      >No temperatures</button
    >
  {:else}
    <button
      type="button"
      class="plate self-end"
      onclick={() =>
        (test.temperatures = {
          preheatMinC: 20,
          interpassMaxC: 250,
          source: "The school's own",
          fromMemory: false,
        })}>Add temperatures</button
    >
  {/if}
  <div class="col-span-full" role="group" aria-label="Positions">
    <span class="eyebrow block">Positions; the first is the one that it is drawn in</span>
    <div class="flex flex-wrap gap-1">
      {#each fitting as position (position)}
        <button
          type="button"
          class="plate number px-3"
          aria-pressed={test.positions.includes(position)}
          onclick={() => toggle(position)}>{position}</button
        >
      {/each}
    </div>
  </div>
</fieldset>
