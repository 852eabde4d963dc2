<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { axisOf, inPercent } from '$lib/parts/axes'
  import Plot from '$lib/parts/Plot.svelte'
  import { percent } from '$lib/words'
  import type { AlignedData, default as UPlot } from 'uplot'

  let { record }: { record: Schema['TrackRecord'] } = $props()

  const HEIGHT = 260
  const FEW = 10
  const BY_CHANCE = 0.1
  const seen = $derived(record.classes.filter((one) => one.sittings > 0))
  const sentence = $derived(
    record.sittings === 0
      ? 'No sitting of a student with coupons here has come out yet. Enter results where you decide.'
      : `${record.passed} of ${record.sittings} first sittings were passed; by what was said it would have been ${record.expected.toFixed(1)}. ${
          record.sittings < FEW
            ? 'These are few: nothing can be said of it yet.'
            : record.departs! < BY_CHANCE
              ? `So far off, or further, it would be in ${percent(record.departs!)} of schools by chance alone: the ${record.passed > record.expected ? 'chances are said too low' : 'chances are said too high'}.`
              : 'That is as near as chance allows.'
        }`,
  )
  const data = $derived<AlignedData>([
    [0, ...seen.map((one) => one.said!), 1],
    [null, ...seen.map((one) => one.share!.mean), null],
    [0, ...seen.map((one) => one.said!), 1],
  ])

  function options(colour: (name: string) => string) {
    const axis = { ...axisOf(colour), values: inPercent }
    // The interval of each share, as a line from its lower to its upper end.
    function intervals(plot: UPlot) {
      const { ctx } = plot
      ctx.save()
      ctx.strokeStyle = colour('--blue')
      ctx.setLineDash([])
      ctx.lineWidth = 3 * devicePixelRatio
      for (const one of seen) {
        const x = plot.valToPos(one.said!, 'x', true)
        ctx.beginPath()
        ctx.moveTo(x, plot.valToPos(one.share!.lower, 'y', true))
        ctx.lineTo(x, plot.valToPos(one.share!.upper, 'y', true))
        ctx.stroke()
      }
      ctx.restore()
    }
    return {
      legend: { show: false },
      cursor: { show: false },
      hooks: { draw: [intervals] },
      scales: {
        x: { time: false, range: [0, 1] as [number, number] },
        y: { range: [0, 1] as [number, number] },
      },
      axes: [
        { ...axis, label: 'said' },
        { ...axis, label: 'passed' },
      ],
      series: [
        {},
        {
          stroke: 'transparent',
          points: { show: true, size: 12, fill: colour('--blue'), stroke: colour('--sheet') },
        },
        { stroke: colour('--bronze'), width: 2, dash: [6, 5], points: { show: false } },
      ],
    }
  }
</script>

<p class="text-xl leading-snug font-semibold">{sentence}</p>
{#if seen.length}
  <figure class="mt-2">
    <Plot {data} {options} height={HEIGHT} />
    <figcaption class="text-(--soft)">
      Dot: the share that was passed, with its 90 % interval. Dashed: as said. Only the first sitting of a
      student on a test counts; those after a failure are not independent of it.
    </figcaption>
  </figure>
{/if}
{#if seen.length}
  <table class="ledger mt-2">
    <thead><tr><th>Said</th><th>Passed</th><th>Share, 90 % interval</th></tr></thead>
    <tbody>
      {#each seen as one (one.from)}
        <tr>
          <td
            >{percent(one.from)} to {percent(one.to)}<span class="text-(--soft)"
              >; {percent(one.said!)} on average</span
            ></td
          >
          <td class="number text-lg whitespace-nowrap">{one.passed} of {one.sittings}</td>
          <td
            >{percent(one.share!.mean)}, {percent(one.share!.lower)} to {percent(
              one.share!.upper,
            )}{one.sittings < 5 ? '; few' : ''}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
