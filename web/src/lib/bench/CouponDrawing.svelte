<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import ClockRing from '$lib/drawings/ClockRing.svelte'
  import JointSection from '$lib/drawings/JointSection.svelte'
  import PlateStrip from '$lib/drawings/PlateStrip.svelte'
  import Mark from '$lib/ui/Mark.svelte'
  import { lengthText } from '$lib/units.svelte'
  import { stageName } from '$lib/words'
  import type { FitUpDraft } from './fit-up-draft.svelte'
  import type { Cut, Look } from './look'
  import { startsAndStops, toeText, type FindingPlace } from './places'

  type Props = {
    coupon: Schema['CouponView']
    section: Schema['JointSection']
    laid: Set<string>
    next: string | null
    /** Where the section is cut, and how it is cut elsewhere. */
    point: string
    onpoint: (at: string) => void
    place: FindingPlace
    /** The fit-up so far, with what stands on the drawing of it. */
    draft: FitUpDraft | null
    measuring: boolean
    /** What a tap on the ring or strip does, in words. */
    asks: string
    onpick: (place: FindingPlace) => void
    /** The bead whose toes can be tapped, while a finding is placed. */
    toeOf: string | null
    /** While the finished coupon is looked at: its face and root, measured where the section is cut. */
    look: Look | null
    /** While specimens are cut and tested: what came of each. */
    cut: Cut | null
    onbead: (key: string) => void
  }
  let {
    coupon,
    section,
    laid,
    next,
    point,
    onpoint,
    place,
    draft,
    measuring,
    asks,
    onpick,
    toeOf,
    look,
    cut,
    onbead,
  }: Props = $props()

  const isPipe = $derived(coupon.test.product === 'pipe')
  const points = $derived(look ? look.places : coupon.test.fitUp.points)
  const own = $derived(new Set(coupon.beads.map((bead) => bead.key)))
  const threatened = $derived(new Set(coupon.findings.flatMap((finding) => finding.threatens)))
  const where = (finding: Schema['FindingView']) =>
    finding.clock ? `${finding.clock} o'clock` : `${lengthText(finding.fromStartMm ?? 0)} from the start`
  const found = $derived(
    coupon.findings.map((finding) => ({
      id: finding.id,
      at: finding.clock ?? finding.fromStartMm ?? 0,
      look: finding.outcome === 'reject' ? ('rejected' as const) : ('within' as const),
      label: `${finding.name}, ${stageName(finding.stage).toLowerCase()}, ${where(finding)}${toeText(finding.toe)}: ${finding.outcome === 'reject' ? 'rejected' : 'within limits'}`,
    })),
  )
  const tacks = $derived(
    (draft?.tacks ?? []).map((tack, index) => ({
      id: `tack ${index}`,
      at: draft!.placeOf(tack.at),
      look: 'tack' as const,
      label: `Tack at ${tack.at}, ${lengthText(tack.lengthMm)}`,
    })),
  )
  const stops = $derived(
    startsAndStops(coupon).map((one) => ({
      id: one.id,
      at: one.clock ?? one.fromStartMm ?? 0,
      look: one.cut ? ('cut' as const) : ('stop' as const),
      label: one.name,
    })),
  )
  const marks = $derived(measuring ? tacks : [...stops, ...found])
  // Said of pipe that lies fixed: the way of the next bead up or down its sides.
  const progression = $derived.by(() => {
    const bead = coupon.beads.find((one) => one.key === next)
    const way = bead && coupon.cards[bead.card]?.progression
    return isPipe && (way === 'uphill' || way === 'downhill') ? way : null
  })
  const partly = $derived(
    new Set(
      coupon.beads
        .filter((bead) => !laid.has(bead.key) && bead.laidAt.includes(point))
        .map((bead) => bead.key),
    ),
  )
  const done = $derived(
    look ? points.filter((at) => look.isMeasured(at)) : points.filter((at) => draft?.isMeasured(at)),
  )
  const measuredHere = $derived(
    [
      ['gap', draft?.value(point, 'rootOpeningMm')],
      ['hi-lo', draft?.value(point, 'offsetMm')],
    ]
      .flatMap(([name, mm]) => (typeof mm === 'number' ? [`${name} ${lengthText(mm)}`] : []))
      .join(', '),
  )
</script>

<section class="sheet min-w-0 p-3" aria-label="The coupon">
  <div class="grid items-center gap-x-4 {isPipe ? 'sm:grid-cols-[minmax(0,5fr)_minmax(0,6fr)]' : ''}">
    {#if isPipe}
      <div class="mx-auto w-full {toeOf ? 'max-w-[17.5rem] lg:max-w-none' : ''}">
        <ClockRing
          marks={marks.map((mark) => ({ ...mark, clock: String(mark.at) }))}
          specimens={coupon.test.specimens.flatMap((one, index) =>
            one.clock == null
              ? []
              : [{ clock: one.clock, threatened: threatened.has(index), tag: cut?.tagOf(index) }],
          )}
          chosen={place.clock}
          {points}
          {point}
          {done}
          {onpoint}
          {progression}
          cut
          onpick={(clock) => onpick({ ...place, clock, fromStartMm: null })}
        />
      </div>
    {/if}
    <div class="min-w-0">
      <p
        class="flex-wrap items-center gap-x-4 text-sm text-(--soft) {measuring
          ? 'hidden'
          : toeOf
            ? 'hidden lg:flex'
            : 'flex'}"
      >
        <span class="flex items-center gap-1"><Mark of="laid" />laid</span>
        <span class="flex items-center gap-1"><Mark of="next" />next</span>
        <span class="flex items-center gap-1"><Mark of="open" />not yet</span>
        <span class="ml-auto"
          ><span class="number text-lg">{[...own].filter((key) => laid.has(key)).length} of {own.size}</span> beads
          laid</span
        >
      </p>
      <JointSection
        {section}
        {laid}
        {own}
        {next}
        {partly}
        toes={toeOf ? { bead: toeOf, chosen: place.toe } : undefined}
        ontoe={(toe) => onpick({ ...place, toe: place.toe === toe ? null : toe })}
        dimensions={measuring && draft
          ? draft.dimensions(point, coupon.fitUp.lines)
          : (look?.dimensions(point) ?? {})}
        {onbead}
        ondimension={(key) => (look ? look.choose(key) : draft?.choose(key))}
      />
      <div class="flex flex-wrap items-center gap-x-3 gap-y-1 pt-1">
        {#if isPipe}
          <p><strong>Section at {point} o'clock</strong> <span class="text-(--soft)">{measuredHere}</span></p>
        {:else}
          <p><strong>Section at</strong></p>
          <div role="group" aria-label="Measured at" class="flex gap-1">
            {#each points as at (at)}
              <button class="plate px-4" aria-pressed={point === at} onclick={() => onpoint(at)}
                >{at}{done.includes(at) ? ' ✓' : ''}</button
              >
            {/each}
          </div>
          <p class="text-(--soft)">{measuredHere}</p>
        {/if}
      </div>
    </div>
  </div>
  {#if !isPipe}
    <PlateStrip
      lengthMm={coupon.test.lengthMm ?? 0}
      marks={marks.map((mark) => ({ ...mark, fromStartMm: Number(mark.at) }))}
      specimens={coupon.test.specimens.map((one, index) => ({
        kind: one.kind,
        fromMm: one.fromMm ?? 0,
        toMm: one.toMm ?? 0,
        threatened: threatened.has(index),
        tag: cut?.tagOf(index),
      }))}
      chosen={place.fromStartMm}
      onpick={(fromStartMm) => onpick({ ...place, clock: null, fromStartMm })}
    />
  {/if}
  <p class="text-sm text-(--soft) {toeOf ? 'max-lg:hidden' : ''}">
    {asks}.
    {#if coupon.test.specimens.length}Hatched: where specimens are cut.{/if}
  </p>
</section>
