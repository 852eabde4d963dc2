<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { clockText } from './arc-words'
  import { bandOf, lineOf, scalesOf, tickOf } from './strip'

  type Props = {
    points: Schema['TracePoints']
    /** What it shows, in a sentence. */
    says: string
    /** The moments to look at, in order: each has its number on the strip. */
    moments?: Schema['MomentView'][]
    referenceVolts?: number | null
    height?: number
  }
  let { points, says, moments = [], referenceVolts = null, height = 132 }: Props = $props()
  let width = $state(0)

  const FOOT = 18
  const LABELLED = 100
  // Room for the numbers of the moments.
  const HEAD = $derived(moments.length ? 22 : 2)
  const seconds = $derived(points.stepS * points.amps.length)
  const scales = $derived(scalesOf(points))
  const split = $derived(HEAD + (height - HEAD - FOOT) * 0.62)
  const voltsY = $derived(
    (value: number) => split - (Math.min(value, scales.volts) / scales.volts) * (split - HEAD),
  )
  const ampsY = $derived(
    (value: number) =>
      height - FOOT - (Math.min(value, scales.amps) / scales.amps) * (height - FOOT - split - 6),
  )
  const ticks = $derived(
    Array.from({ length: Math.floor(seconds / tickOf(seconds)) + 1 }, (_, at) => at * tickOf(seconds)),
  )
  const x = $derived((at: number) => (at / seconds) * width)
</script>

<div class="w-full" bind:clientWidth={width} style:height="{height}px">
  {#if width > 0}
    <svg {width} {height} role="img" aria-label={says}>
      {#each moments as moment (moment.atS + moment.what)}
        <rect
          class="moment"
          x={x(moment.atS)}
          y={HEAD}
          width={Math.max(3, x(moment.lastsS))}
          height={height - HEAD - FOOT}
        />
      {/each}
      <line class="ground" x1="0" x2={width} y1={split} y2={split} />
      <line class="ground" x1="0" x2={width} y1={height - FOOT} y2={height - FOOT} />
      {#if referenceVolts}
        <line class="reference" x1="0" x2={width} y1={voltsY(referenceVolts)} y2={voltsY(referenceVolts)} />
      {/if}
      <path class="band" d={bandOf(points.voltsMin, points.voltsMax, width, voltsY)} />
      <path class="volts" d={lineOf(points.volts, width, voltsY)} />
      <path class="amps" d={lineOf(points.amps, width, ampsY)} />
      {#if height > LABELLED}
        <text class="number name" x="2" y={HEAD + 12}>V</text>
        <text class="number name" x="2" y={split + 15}>A</text>
      {/if}
      {#each ticks as tick (tick)}
        <text
          class="number tick"
          x={x(tick)}
          y={height - 4}
          text-anchor={tick === 0 ? 'start' : x(tick) > width - 20 ? 'end' : 'middle'}>{clockText(tick)}</text
        >
      {/each}
      {#each moments as moment, at (moment.atS + moment.what)}
        <g transform="translate({Math.min(width - 10, Math.max(10, x(moment.atS + moment.lastsS / 2)))} 11)">
          <circle class="mark" r="10" />
          <text class="number mark-text" text-anchor="middle" y="5">{at + 1}</text>
        </g>
      {/each}
    </svg>
  {/if}
</div>

<style>
  .band {
    fill: var(--cold);
    opacity: 0.45;
  }
  .volts,
  .amps {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.5;
  }
  .amps {
    stroke: var(--bronze);
  }
  .ground {
    stroke: var(--line);
  }
  .reference {
    stroke: var(--soft);
    stroke-dasharray: 5 4;
  }
  .moment {
    fill: var(--straw-ground);
  }
  .mark {
    fill: var(--straw-ground);
    stroke: var(--straw-ink);
    stroke-width: 1.5;
  }
  .mark-text {
    font-size: 15px;
    fill: var(--straw-ink);
  }
  .name,
  .tick {
    font-size: 15px;
    fill: var(--soft);
  }
</style>
