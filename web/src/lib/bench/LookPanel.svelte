<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import VerdictMark from '$lib/parts/VerdictMark.svelte'
  import { bareText, chips, lengthText } from '$lib/units.svelte'

  type Body = Partial<Schema['BenchEventBody']>
  type Props = {
    coupon: Schema['CouponView']
    ontell: (kind: Schema['BenchEventKind'], body: Body, says: string) => void
  }
  let { coupon, ontell }: Props = $props()

  const HEIGHTS = { sixtyFourths: [-4, -2, 0, 2, 4, 6, 8, 10], tenths: [-16, -8, 0, 8, 16, 24, 32, 40] }
  const SIZES = { sixtyFourths: [1, 2, 4, 6, 8, 12, 16], tenths: [4, 8, 16, 24, 32, 48, 64] }
  const places = $derived(
    coupon.test.product === 'pipe' ? coupon.test.fitUp.points : ['start', 'middle', 'end'],
  )
  const SIDES: { id: Schema['JointSide']; name: string }[] = [
    { id: 'face', name: 'Face' },
    { id: 'root', name: 'Root' },
  ]
  let side = $state<Schema['JointSide']>('face')
  let place = $state<string | null>(null)
  let specimen = $state<number | null>(null)
  let corner = $state(false)
  let slag = $state(false)

  const at = $derived(place ?? places.find((one) => !heightOf(side, one)) ?? places[0]!)
  const tested = $derived(new Map(coupon.life.specimens.map((one) => [one.specimen, one.verdict])))
  const threatened = $derived(new Set(coupon.findings.flatMap((one) => one.threatens)))
  const chosen = $derived(specimen === null ? null : coupon.test.specimens[specimen])

  function heightOf(which: Schema['JointSide'], where: string) {
    return coupon.life.measures.findLast((one) => one.body.side === which && one.body.at === where)
  }
  const signed = (mm: number) => (mm < 0 ? `${lengthText(-mm)} below` : lengthText(mm))
  const kindName = (kind: string) => kind.replace(/([A-Z])/g, ' $1').toLowerCase()
  const isBend = (kind: string) => ['root', 'face', 'side', 'vise'].includes(kind)

  function test(body: Body, says: string) {
    ontell('specimenTested', { specimen, ...body }, says)
    specimen = null
  }
  const fillet = (bentFlat: boolean, inclusionsMm: number[]): Body => ({
    filletBreak: { bentFlat, fusionToRoot: true, crack: false, inclusionsMm },
  })
</script>

<section class="border-t pt-2" aria-label="Face and root">
  <div class="flex flex-wrap items-center gap-1.5">
    {#each SIDES as one (one.id)}
      <button class="tap px-2" aria-pressed={side === one.id} onclick={() => (side = one.id)}
        >{one.name}</button
      >
    {/each}
    <span class="eyebrow">at</span>
    {#each places as one (one)}
      {@const known = heightOf(side, one)}
      <button class="tap px-2" aria-pressed={at === one} onclick={() => (place = one)}
        >{one}{#if known}<span class="number">{signed(known.body.heightMm ?? 0)}</span>{/if}</button
      >
    {/each}
  </div>
  <div class="mt-1 flex flex-wrap gap-1" role="group" aria-label="{side} at {at}, over flush">
    {#each chips(HEIGHTS.sixtyFourths, HEIGHTS.tenths) as mm (mm)}
      <button
        class="tap number px-2 text-lg"
        aria-label="{side} at {at}: {mm === 0 ? 'flush' : signed(mm)}"
        onclick={() => {
          ontell(
            'measured',
            { side, at, heightMm: mm },
            `${side === 'face' ? 'Face' : 'Root'} at ${at}: ${mm === 0 ? 'flush' : signed(mm)}.`,
          )
          place = null
        }}>{mm === 0 ? 'flush' : mm < 0 ? `−${bareText(-mm)}` : bareText(mm)}</button
      >
    {/each}
  </div>
</section>

{#if coupon.test.specimens.length}
  <section class="border-t pt-2" aria-label="Specimens">
    <p class="eyebrow">Cut and break</p>
    <div class="flex flex-wrap gap-1.5">
      {#each coupon.test.specimens as one, index (index)}
        {@const verdict = tested.get(index)}
        <button
          class="tap px-2"
          aria-pressed={specimen === index}
          onclick={() => (specimen = specimen === index ? null : index)}
          >{kindName(one.kind)}{one.clock ? ` ${one.clock}` : ''}{#if threatened.has(index)}<span
              class="text-sm text-(--caution)">a finding lies in it</span
            >{/if}{#if verdict}<VerdictMark kind={verdict.kind} />{/if}</button
        >
      {/each}
    </div>
    {#if chosen && isBend(chosen.kind)}
      <div class="mt-1 flex flex-wrap items-center gap-1">
        <button
          class="tap"
          onclick={() =>
            test(
              { bend: { wallMm: coupon.test.thicknessMm, discontinuities: [] } },
              'Bend without an opening.',
            )}>Nothing opened</button
        >
        <button class="tap px-2" aria-pressed={corner} onclick={() => (corner = !corner)}>at a corner</button>
        <button class="tap px-2" aria-pressed={slag} onclick={() => (slag = !slag)}
          >slag or fusion shows</button
        >
        {#each chips(SIZES.sixtyFourths, SIZES.tenths) as mm (mm)}
          <button
            class="tap number px-2 text-lg"
            aria-label="Opened {lengthText(mm)}"
            onclick={() =>
              test(
                {
                  bend: {
                    wallMm: coupon.test.thicknessMm,
                    discontinuities: [{ sizeMm: mm, corner, fromSlagOrFusion: slag }],
                  },
                },
                `Opened ${lengthText(mm)}.`,
              )}>{bareText(mm)}</button
          >
        {/each}
      </div>
    {:else if chosen?.kind === 'filletBreak'}
      <div class="mt-1 flex flex-wrap gap-1">
        <button class="tap" onclick={() => test(fillet(true, []), 'Bent flat on itself.')}>Bent flat</button>
        <button class="tap" onclick={() => test(fillet(false, []), 'Broke sound, fused to the root.')}
          >Broke, sound</button
        >
        <button
          class="tap"
          onclick={() =>
            test(
              { filletBreak: { bentFlat: false, fusionToRoot: false, crack: false, inclusionsMm: [] } },
              'Broke without fusion to the root.',
            )}>No fusion at the root</button
        >
        {#each chips(SIZES.sixtyFourths, SIZES.tenths) as mm (mm)}
          <button
            class="tap number px-2 text-lg"
            aria-label="Pore or inclusion {lengthText(mm)}"
            onclick={() => test(fillet(false, [mm]), `Pore or inclusion of ${lengthText(mm)}.`)}
            >{bareText(mm)}</button
          >
        {/each}
      </div>
    {:else if chosen?.kind === 'macro'}
      <div class="mt-1 flex flex-wrap gap-1">
        {#each [['Sound', false, true], ['Crack', true, true], ['Not fused', false, false]] as [string, boolean, boolean][] as [name, crack, fusionComplete] (name)}
          <button
            class="tap"
            onclick={() =>
              test(
                {
                  macro: {
                    fillet: false,
                    crack,
                    fusionComplete,
                    rootIndicationMm: null,
                    legAskedMm: null,
                    legAMm: null,
                    legBMm: null,
                    faceWidthMm: null,
                    convexityMm: null,
                    concavityMm: null,
                    undercutMm: 0,
                  },
                },
                `Macro: ${name.toLowerCase()}.`,
              )}>{name}</button
          >
        {/each}
      </div>
    {:else if chosen?.kind === 'radiograph'}
      <div class="mt-1 flex flex-wrap gap-1">
        <button class="tap" onclick={() => test({ indications: [] }, 'Film clean.')}>Film clean</button>
        {#each [['crack', 'Crack'], ['incompleteFusion', 'Incomplete fusion'], ['incompletePenetration', 'Incomplete penetration']] as [Schema['IndicationKind'], string][] as [kind, name] (kind)}
          <button
            class="tap"
            onclick={() =>
              test({ indications: [{ kind, sizeMm: null, atMm: null }] }, `Film: ${name.toLowerCase()}.`)}
            >{name}</button
          >
        {/each}
      </div>
    {/if}
    {#each coupon.life.specimens as one (one.specimen)}
      {#each one.verdict.reasons as reason, index (index)}
        <p class="text-sm">
          {kindName(one.kind)}: {reason.rule}
          {reason.limit != null ? `Limit ${lengthText(reason.limit)}.` : ''}
          <span class="text-(--soft)"
            >{reason.source}{reason.fromMemory ? '; check against your edition' : ''}</span
          >
        </p>
      {/each}
    {/each}
  </section>
{/if}
