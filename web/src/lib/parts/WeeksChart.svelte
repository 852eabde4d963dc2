<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { axisOf, inPercent } from '$lib/parts/axes'
  import Plot from '$lib/parts/Plot.svelte'
  import { shortDay } from '$lib/weeks'
  import type { AlignedData } from 'uplot'

  let { weeks }: { weeks: Schema['WeekOfCoupons'][] } = $props()

  const HEIGHT = 150
  const half = $derived(Math.floor(weeks.length / 2))
  const share = (some: Schema['WeekOfCoupons'][]) => {
    const coupons = some.reduce((sum, week) => sum + week.coupons, 0)
    const rejected = some.reduce((sum, week) => sum + week.rejected, 0)
    return { coupons, rejected }
  }
  const [before, after] = $derived([share(weeks.slice(0, half)), share(weeks.slice(half))])
  const sentence = $derived(
    `Rejected: ${before.rejected} of ${before.coupons} coupons in the first ${half} weeks, ${after.rejected} of ${after.coupons} in the last ${weeks.length - half}. The work of one week is not that of another, so this is no trend.`,
  )
  const data = $derived<AlignedData>([
    weeks.map((week) => Date.parse(week.begins) / 1000),
    weeks.map((week) => week.rejected / week.coupons),
  ])

  function options(colour: (name: string) => string) {
    const axis = axisOf(colour)
    return {
      legend: { show: false },
      cursor: { show: false },
      scales: { y: { range: [0, 1] as [number, number] } },
      axes: [
        {
          ...axis,
          space: 80,
          values: (_: unknown, ticks: number[]) =>
            ticks.map((tick) => shortDay(new Date(tick * 1000).toISOString().slice(0, 10)).slice(4)),
        },
        {
          ...axis,
          size: 60,
          values: inPercent,
        },
      ],
      series: [{}, { stroke: colour('--caution'), width: 3, points: { show: true, size: 8 } }],
    }
  }
</script>

{#if weeks.length > 2}
  <figure>
    <Plot {data} {options} height={HEIGHT} />
    <figcaption>{sentence}</figcaption>
  </figure>
  <details>
    <summary class="cursor-pointer py-1 font-semibold">Week by week</summary>
    <table class="ledger">
      <thead><tr><th>Week of</th><th>Closed</th><th>Rejected</th></tr></thead>
      <tbody>
        {#each weeks.toReversed() as week (week.begins)}
          <tr
            ><td>{shortDay(week.begins)}</td><td class="number text-lg">{week.coupons}</td><td
              class="number text-lg">{week.rejected}</td
            ></tr
          >
        {/each}
      </tbody>
    </table>
  </details>
{/if}
