<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import ClockRing from '$lib/drawings/ClockRing.svelte'
  import PlateStrip from '$lib/drawings/PlateStrip.svelte'
  import { lengthText } from '$lib/units.svelte'
  import { stageName } from '$lib/words'

  type Place = { clock: string | null; fromStartMm: number | null }
  let {
    coupon,
    place,
    onpick,
  }: { coupon: Schema['CouponView']; place: Place; onpick: (place: Place) => void } = $props()

  const where = (finding: Schema['FindingView']) =>
    finding.clock ? `${finding.clock} o'clock` : `${lengthText(finding.fromStartMm ?? 0)} from the start`
  const marks = $derived(
    coupon.findings.map((finding) => ({
      id: finding.id,
      clock: finding.clock ?? '',
      fromStartMm: finding.fromStartMm ?? 0,
      rejected: finding.outcome === 'reject',
      label: `${finding.name}, ${stageName(finding.stage).toLowerCase()}, ${where(finding)}: ${finding.outcome === 'reject' ? 'rejected' : 'within limits'}`,
    })),
  )
</script>

<section class="sheet p-3" aria-label="Findings at their place">
  <p class="eyebrow">
    {coupon.findings.length ? 'Findings; tap a place to add one' : 'Tap a place to put a finding there'}.
    Shaded: where bends are cut.
  </p>
  <div
    class="grid items-center gap-3 {coupon.test.product === 'pipe'
      ? 'sm:grid-cols-[minmax(0,26rem)_1fr] lg:grid-cols-[17rem_1fr]'
      : ''}"
  >
    {#if coupon.test.product === 'pipe'}
      <ClockRing
        {marks}
        specimens={coupon.test.specimens.map((one) => one.clock).filter((clock) => clock != null)}
        chosen={place.clock}
        onpick={(clock) => onpick({ clock, fromStartMm: null })}
      />
    {:else}
      <PlateStrip
        lengthMm={coupon.test.lengthMm ?? 0}
        {marks}
        specimens={coupon.test.specimens.map((one) => ({
          kind: one.kind,
          fromMm: one.fromMm ?? 0,
          toMm: one.toMm ?? 0,
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
