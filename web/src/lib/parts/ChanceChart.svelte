<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { dayOf } from '$lib/days'
  import { axisOf, inPercent } from '$lib/parts/axes'
  import Plot from '$lib/parts/Plot.svelte'
  import { session } from '$lib/session.svelte'
  import { percent } from '$lib/words'
  import type { AlignedData } from 'uplot'

  type Props = { trace: Schema['TraceView'][]; bar: number }
  let { trace, bar }: Props = $props()
  const HEIGHT = 220
  const first = $derived(trace[0])
  const last = $derived(trace.at(-1))
  const sentence = $derived(
    !first || !last
      ? 'No coupon was closed yet.'
      : trace.length === 1
        ? `One coupon so far: ${percent(last.mean)}, between ${percent(last.lower)} and ${percent(last.upper)}.`
        : `Over ${trace.length} coupons the chance went from ${percent(first.mean)} to ${percent(last.mean)}; it now lies between ${percent(last.lower)} and ${percent(last.upper)}, the bar is ${percent(bar)}.`,
  )

  const of = (pick: (point: Schema['TraceView']) => number | null) => trace.map(pick)
  const data = $derived<AlignedData>([
    of((point) => Date.parse(point.at) / 1000) as number[],
    of((point) => point.lower),
    of((point) => point.upper),
    of((point) => point.mean),
    of((point) => (point.clean ? point.mean : null)),
    of((point) => (point.clean ? null : point.mean)),
    of(() => bar),
  ])

  function options(colour: (name: string) => string) {
    const axis = axisOf(colour)
    const dots = { show: true, stroke: colour('--sheet') }
    return {
      legend: { show: false },
      cursor: { show: false },
      scales: { y: { range: [0, 1] as [number, number] } },
      axes: [
        {
          ...axis,
          space: 70,
          values: (_: unknown, ticks: number[]) =>
            ticks.map((tick) => dayOf(new Date(tick * 1000).toISOString(), session.timeZone)),
        },
        {
          ...axis,
          size: 60,
          values: inPercent,
        },
      ],
      bands: [{ series: [2, 1] as [number, number], fill: colour('--straw-ground') }],
      series: [
        {},
        { stroke: 'transparent' },
        { stroke: 'transparent' },
        { stroke: colour('--blue'), width: 3, points: { show: false } },
        { stroke: 'transparent', points: { ...dots, size: 8, fill: colour('--blue') } },
        {
          stroke: 'transparent',
          points: { ...dots, size: 9, fill: colour('--sheet'), stroke: colour('--caution'), width: 2 },
        },
        { stroke: colour('--bronze'), width: 2, dash: [6, 5], points: { show: false } },
      ],
    }
  }
</script>

<figure>
  {#if trace.length > 1}<Plot {data} {options} height={HEIGHT} />{/if}
  <figcaption>
    {sentence}
    {#if trace.length > 1}<span class="text-(--soft)"
        >Full dot: clean. Open dot: rejected. Dashed: the bar.</span
      >{/if}
  </figcaption>
</figure>
{#if trace.length}
  <details>
    <summary class="cursor-pointer py-1 font-semibold">The coupons that moved it</summary>
    <table class="ledger">
      <thead><tr><th>Day</th><th>Coupon</th><th>Chance after it</th><th>90 % band</th></tr></thead>
      <tbody>
        {#each [...trace].reverse() as point (point.couponId)}
          <tr>
            <td
              ><a class="underline" href="/coupons/{point.couponId}">{dayOf(point.at, session.timeZone)}</a
              ></td
            >
            <td
              >{point.full ? 'full' : 'drill'}, {point.aided ? 'coached' : 'as under test'}, {point.clean
                ? 'clean'
                : 'rejected'}</td
            >
            <td class="number text-lg">{percent(point.mean)}</td>
            <td class="number">{percent(point.lower)} to {percent(point.upper)}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  </details>
{/if}
