<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import ClockRing from '$lib/drawings/ClockRing.svelte'
  import PlateStrip from '$lib/drawings/PlateStrip.svelte'
  import { lengthText } from '$lib/units.svelte'
  import { stageName } from '$lib/words'
  import type { FitUpDraft } from './fit-up-draft.svelte'
  import { startsAndStops } from './places'

  type Place = { clock: string | null; fromStartMm: number | null }
  type Props = {
    coupon: Schema['CouponView']
    place: Place
    /** The fit-up while it is measured: its tacks stand on the drawing. */
    draft: FitUpDraft | null
    /** What a tap does, in words. */
    asks: string
    onpick: (place: Place) => void
  }
  let { coupon, place, draft, asks, onpick }: Props = $props()

  const isPipe = $derived(coupon.test.product === 'pipe')
  const threatened = $derived(new Set(coupon.findings.flatMap((finding) => finding.threatens)))
  const where = (finding: Schema['FindingView']) =>
    finding.clock ? `${finding.clock} o'clock` : `${lengthText(finding.fromStartMm ?? 0)} from the start`
  const found = $derived(
    coupon.findings.map((finding) => ({
      id: finding.id,
      at: finding.clock ?? finding.fromStartMm ?? 0,
      look: finding.outcome === 'reject' ? ('rejected' as const) : ('within' as const),
      label: `${finding.name}, ${stageName(finding.stage).toLowerCase()}, ${where(finding)}: ${finding.outcome === 'reject' ? 'rejected' : 'within limits'}`,
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
  const marks = $derived(draft ? tacks : [...stops, ...found])
</script>

<section class="sheet p-3" aria-label="Findings at their place">
  <p class="eyebrow">
    {asks}.
    {#if coupon.test.specimens.length}Shaded: where specimens are cut.{/if}
  </p>
  <div
    class="grid items-center gap-3 {isPipe
      ? 'sm:grid-cols-[minmax(0,26rem)_1fr] lg:grid-cols-[17rem_1fr]'
      : ''}"
  >
    {#if isPipe}
      <ClockRing
        marks={marks.map((mark) => ({ ...mark, clock: String(mark.at) }))}
        specimens={coupon.test.specimens.flatMap((one, index) =>
          one.clock == null ? [] : [{ clock: one.clock, threatened: threatened.has(index) }],
        )}
        chosen={place.clock}
        onpick={(clock) => onpick({ clock, fromStartMm: null })}
      />
    {:else}
      <PlateStrip
        lengthMm={coupon.test.lengthMm ?? 0}
        marks={marks.map((mark) => ({ ...mark, fromStartMm: Number(mark.at) }))}
        specimens={coupon.test.specimens.map((one, index) => ({
          kind: one.kind,
          fromMm: one.fromMm ?? 0,
          toMm: one.toMm ?? 0,
          threatened: threatened.has(index),
        }))}
        chosen={place.fromStartMm}
        onpick={(fromStartMm) => onpick({ clock: null, fromStartMm })}
      />
    {/if}
    <ul>
      {#each coupon.findings as finding (finding.id)}
        <li class="flex items-baseline gap-2 border-t py-0.5 first:border-t-0">
          <span class:text-(--caution)={finding.outcome === 'reject'} class="font-semibold"
            >{finding.name}</span
          >
          <span class="text-sm text-(--soft)">{stageName(finding.stage).toLowerCase()}, {where(finding)}</span
          >
        </li>
      {:else}
        <li class="text-(--soft)">Nothing found so far.</li>
      {/each}
    </ul>
  </div>
</section>
