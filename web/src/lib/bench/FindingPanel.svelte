<script lang="ts">
  import { untrack } from 'svelte'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { clockAt, minutesOf } from '$lib/clock'
  import { notices } from '$lib/notices.svelte'
  import { write } from '$lib/outbox.svelte'
  import FaultGlyph from '$lib/drawings/FaultGlyph.svelte'
  import SizeChips from '$lib/parts/SizeChips.svelte'
  import { findingKindsQuery } from '$lib/queries'
  import { recordEvent, takeBackEvent } from '$lib/recording'
  import Fold from '$lib/ui/Fold.svelte'
  import LimitRuler from '$lib/ui/LimitRuler.svelte'
  import NextFrame from '$lib/ui/NextFrame.svelte'
  import ThumbBar from '$lib/ui/ThumbBar.svelte'
  import { lengthText } from '$lib/units.svelte'
  import { measureName, shapeName, stageName } from '$lib/words'
  import FindingWord from './FindingWord.svelte'
  import { startsAndStops, type FindingPlace } from './places'

  type Props = {
    coupon: Schema['CouponView']
    place: FindingPlace
    bead: Schema['BeadView'] | null
    /** The finding that is put right; null for a new one. */
    correcting: Schema['FindingView'] | null
    /** What it would come to: told as soon as a kind is chosen, before it is kept. */
    told: Schema['FindingPreview'] | null
    /** Whether that is said here; else whoever shows the panel says it beside it. */
    saysSo: boolean
    onsaved: () => void
    /** One that was kept is taken back: another may be on its way in by then. */
    ontakenback: () => void
    onleave: () => void
  }
  let {
    coupon,
    place = $bindable(),
    bead,
    correcting,
    told = $bindable(),
    saysSo,
    onsaved,
    ontakenback,
    onleave,
  }: Props = $props()

  type LengthMeasure = 'depthMm' | 'heightMm' | 'lengthMm' | 'diameterMm' | 'widthMm' | 'faceHeightThereMm'
  const SHOWN = 6
  const TOES: [Schema['JointMember'] | null, string][] = [
    ['a', 'Left toe'],
    [null, 'On the bead'],
    ['b', 'Right toe'],
  ]
  const OVER = { sixtyFourths: [0, 2, 4, 6, 8], tenths: [0, 8, 16, 24, 32] }
  const LONG = { sixtyFourths: [8, 16, 32, 64, 96, 128], tenths: [30, 60, 130, 250, 380, 500] }

  const kinds = findingKindsQuery()
  let chosenStage = $state<Schema['Stage'] | null>(null)
  let kind = $state<Schema['DiscontinuityKind'] | null>(null)
  let sizes = $state<Partial<Record<LengthMeasure, number | null>>>({})
  let count = $state<number | null>(null)
  let shape = $state<Schema['FindingShape'] | null>(null)
  let busy = $state(false)
  let id = newId()

  $effect(() => {
    const said = correcting
    // Begins from what was said; what is chosen since is not gone back on.
    if (said) untrack(() => begin(said))
  })

  function begin(said: Schema['FindingView']) {
    const { depthMm, heightMm, lengthMm, diameterMm, widthMm, faceHeightThereMm } = said
    kind = said.kind
    chosenStage = said.stage
    sizes = { depthMm, heightMm, lengthMm, diameterMm, widthMm, faceHeightThereMm }
    count = said.count ?? null
    shape = said.shape ?? null
  }

  const lastLaid = $derived([...coupon.beads].reverse().find((one) => one.runs.length)?.stage)
  const stage = $derived(chosenStage ?? lastLaid ?? bead?.stage ?? coupon.test.stages[0]!)
  const offered = $derived(
    (kinds.data ?? [])
      .filter((one) => one.stages.includes(stage))
      .toSorted((a, b) => a.order[stage]! - b.order[stage]!),
  )
  // Those of this stage, the commonest of this school first; what is chosen stays in sight.
  const usual = $derived(offered.filter((one, index) => index < SHOWN || one.kind === kind))
  const others = $derived(offered.filter((one) => !usual.includes(one)))
  const entry = $derived(kinds.data?.find((one) => one.kind === kind))
  const isPipe = $derived(coupon.test.product === 'pipe')
  const placed = $derived(isPipe ? place.clock != null : place.fromStartMm != null)
  const ends = $derived(startsAndStops(coupon))

  function choose(next: Schema['DiscontinuityKind']) {
    if (next !== kind) told = null // an answer about another kind is not shown
    kind = next
    sizes = {}
    count = null
    shape = null
  }

  const measures = () => ({
    depthMm: sizes.depthMm ?? null,
    heightMm: sizes.heightMm ?? null,
    lengthMm: sizes.lengthMm ?? null,
    diameterMm: sizes.diameterMm ?? null,
    widthMm: sizes.widthMm ?? null,
    faceHeightThereMm: sizes.faceHeightThereMm ?? null,
    count,
  })

  const values = () => ({
    kind: kind!,
    stage,
    clock: isPipe ? place.clock : null,
    fromStartMm: isPipe ? null : place.fromStartMm,
    ...measures(),
    toe: place.toe,
    shape,
  })
  const said = () => ({
    passId: coupon.beads.findLast((one) => one.stage === stage && one.runs.length)?.runs.at(-1)?.id ?? null,
    ...values(),
  })

  $effect(() => {
    if (!kind) {
      told = null
      return
    }
    let stale = false
    ask(
      api.POST('/api/coupons/{couponId}/findings/preview', {
        params: { path: { couponId: coupon.id } },
        body: said(),
      }),
    ).then(
      (answer) => {
        if (!stale) told = answer
      },
      () => {
        if (!stale) told = null // Without the server it is kept all the same; what it comes to is told later.
      },
    )
    return () => (stale = true)
  })

  function size(measure: string, mm: number | null) {
    sizes = { ...sizes, [measure]: mm }
  }

  async function save() {
    if (!kind) return
    busy = true
    const done = await notices.attempt(async () => {
      if (correcting) {
        const event = await recordEvent(coupon.id, 'findingCorrected', {
          findingId: correcting.id,
          finding: values(),
        })
        notices.add(`${entry?.name} put right.`, 'done', async () => {
          await takeBackEvent(coupon.id, event)
          ontakenback()
        })
        return
      }
      const findingId = id
      await write(coupon.id, 'PUT', 'findings', findingId, said(), entry?.name ?? 'a finding')
      notices.add(`${entry?.name} recorded.`, 'done', async () => {
        await write(coupon.id, 'DELETE', 'findings', findingId, null, 'a finding taken back')
        ontakenback()
      })
    })
    busy = false
    if (done) {
      id = newId()
      kind = null
      onsaved()
    }
  }

  /** Half an hour on the clock, or a twenty-fourth of the plate: less than a thumb is wide on the drawing. */
  function nudge(by: 1 | -1) {
    if (isPipe) {
      place = { ...place, clock: clockAt(minutesOf(place.clock ?? '12:00') + by * 30), fromStartMm: null }
    } else {
      const length = coupon.test.lengthMm ?? 0
      const at = (place.fromStartMm ?? 0) + (by * length) / 24
      place = { ...place, clock: null, fromStartMm: Math.min(length, Math.max(0, at)) }
    }
  }
  const limitOf = (measure: string) => told?.limits.find((one) => one.measure === measure)?.limit ?? null
</script>

{#snippet choice(one: Schema['FindingKind'])}
  <button
    class="plate justify-start gap-2 py-1 pr-1 pl-4 text-left"
    aria-label="{one.name}{one.shopName ? ` ${one.shopName}` : ''}"
    aria-pressed={kind === one.kind}
    onclick={() => choose(one.kind)}
  >
    <FaultGlyph kind={one.kind} />
    <span class="min-w-0 [overflow-wrap:anywhere] hyphens-auto"
      >{one.name}{#if one.shopName}<span class="block text-sm font-normal">{one.shopName}</span>{/if}</span
    >
  </button>
{/snippet}

{#if coupon.closedAt}
  <p class="text-lg">The coupon is closed. Open it again to add a finding.</p>
{:else}
  <div class="flex flex-col gap-3">
    <div class="flex flex-wrap items-center gap-x-4 gap-y-2">
      <h2 class="text-2xl">
        {correcting ? `Correct: ${correcting.name}` : 'A finding'}
      </h2>
      <NextFrame>
        <div class="flex flex-wrap items-center gap-1.5" role="group" aria-label="Stage">
          {#each coupon.test.stages as one (one)}
            <button class="plate" aria-pressed={stage === one} onclick={() => (chosenStage = one)}
              >{stageName(one)}</button
            >
          {/each}
        </div>
      </NextFrame>
    </div>
    <NextFrame>
      <div class="grid items-center gap-2 sm:max-lg:grid-cols-2">
        <div class="flex items-center gap-2" role="group" aria-label="Where">
          <button
            class="plate number min-h-[56px] min-w-[56px] text-3xl"
            aria-label="Back a little"
            onclick={() => nudge(-1)}>−</button
          >
          <p class="min-w-0 grow text-center leading-tight">
            {#if placed}
              <span class="number block text-3xl"
                >{isPipe ? place.clock : lengthText(place.fromStartMm!)}</span
              >
              <span class="text-sm text-(--soft)">{isPipe ? "o'clock" : 'from the start'}</span>
            {:else}<strong>Where? Tap the {isPipe ? 'ring' : 'strip'}.</strong>{/if}
          </p>
          <button
            class="plate number min-h-[56px] min-w-[56px] text-3xl"
            aria-label="On a little"
            onclick={() => nudge(1)}>+</button
          >
        </div>
        <div class="grid grid-cols-3 gap-1.5" role="group" aria-label="Across the joint">
          {#each TOES as [toe, name] (name)}
            <button
              class="plate px-2"
              aria-pressed={place.toe === toe}
              onclick={() => (place = { ...place, toe })}>{name}</button
            >
          {/each}
        </div>
      </div>
      {#if ends.length}
        <div class="flex flex-wrap gap-1.5" role="group" aria-label="At a start or stop">
          {#each ends as end (end.id)}
            <button
              class="plate px-2 text-sm"
              aria-pressed={end.clock === place.clock && end.fromStartMm === place.fromStartMm}
              onclick={() => (place = { ...place, clock: end.clock, fromStartMm: end.fromStartMm })}
              >{end.name}</button
            >
          {/each}
        </div>
      {/if}
      <div role="group" aria-label="What was found">
        <p class="pb-1">
          <strong class="text-lg">What</strong>
          <span class="text-(--soft)">most often on this stage first</span>
        </p>
        <div class="grid grid-cols-2 gap-2 sm:max-lg:grid-cols-3">
          {#each usual as one (one.kind)}{@render choice(one)}{/each}
        </div>
        <Fold
          name="Other faults"
          value="{others.length}: {others
            .slice(0, 3)
            .map((one) => one.name.toLowerCase())
            .join(', ')}"
        >
          <div class="grid grid-cols-2 gap-2 sm:max-lg:grid-cols-3">
            {#each others as one (one.kind)}{@render choice(one)}{/each}
          </div>
        </Fold>
      </div>
    </NextFrame>
    {#key kind}<NextFrame>
        {#each entry?.measures ?? [] as measure, index (measure)}
          {#if measure === 'count'}
            <div class="flex flex-wrap items-center gap-1.5" role="group" aria-label="How many">
              <span class="mr-1 text-lg font-bold">How many</span>
              {#each [1, 2, 3, 5, 10] as one (one)}
                <button class="plate number" aria-pressed={count === one} onclick={() => (count = one)}
                  >{one}</button
                >
              {/each}
            </div>
          {:else if measure === 'faceHeightThereMm'}
            <SizeChips
              label={measureName(measure)}
              value={sizes[measure]}
              {...OVER}
              onpick={(mm) => size(measure, mm)}
            />
          {:else if measure === 'lengthMm' || measure === 'widthMm'}
            <SizeChips
              label={measureName(measure)}
              value={sizes[measure as LengthMeasure]}
              {...LONG}
              onpick={(mm) => size(measure, mm)}
            />
          {:else}
            <LimitRuler
              label={measureName(measure)}
              value={sizes[measure as LengthMeasure]}
              limit={limitOf(measure)}
              onpick={(mm) => size(measure, mm)}
            />
          {/if}
          {#if index === 0 && told && saysSo}<FindingWord {told} />{/if}
        {/each}
      </NextFrame>{/key}
    {#if entry?.shapes.length}
      <div class="flex flex-wrap items-center gap-1.5" role="group" aria-label="How it lies">
        <span class="mr-1 text-lg font-bold">How it lies</span>
        {#each entry.shapes as one (one)}
          <button
            class="plate px-2"
            aria-pressed={shape === one}
            onclick={() => (shape = shape === one ? null : one)}>{shapeName(one)}</button
          >
        {/each}
      </div>
    {/if}
    <NextFrame>
      <ThumbBar stays>
        <button class="lead" disabled={!kind || !placed || busy} onclick={save}
          >{correcting ? 'Put it right' : 'Keep this finding'}</button
        >
        <button class="bare px-3" onclick={onleave}>Leave it out</button>
      </ThumbBar>
    </NextFrame>
  </div>
{/if}
