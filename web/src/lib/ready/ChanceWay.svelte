<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { dayOf } from '$lib/days'
  import { session } from '$lib/session.svelte'
  import { percent } from '$lib/words'

  let { trace, bar }: { trace: Schema['TraceView'][]; bar: number } = $props()
  const SHOWN = 15
  const WIDTH = 430
  const HEIGHT = 130
  const AT = { left: 34, right: 396, top: 8, bottom: 122 }
  const points = $derived(trace.slice(-SHOWN))
  const last = $derived(points.at(-1))
  const x = (index: number) =>
    points.length < 2
      ? (AT.left + AT.right) / 2
      : AT.left + 12 + (index / (points.length - 1)) * (AT.right - AT.left - 24)
  const y = (chance: number) => AT.bottom - chance * (AT.bottom - AT.top)
  const line = $derived(points.map((point, index) => `${x(index)},${y(point.mean)}`).join(' '))
  const rejected = $derived(points.filter((point) => !point.clean).length)
  const says = $derived(
    points.length === 0
      ? 'No coupon on this test yet.'
      : `${points.length === 1 ? 'One coupon' : `${points.length} coupons`} since ${dayOf(points[0]!.at, session.timeZone)}${rejected === 0 ? ', all clean' : rejected === 1 ? '; the open square had a fault' : '; the open squares had a fault'}.`,
  )
</script>

<figure>
  {#if last}
    <svg
      viewBox="0 0 {WIDTH} {HEIGHT}"
      class="w-full"
      role="img"
      aria-label="The chance to pass after each coupon, now {percent(last.mean)}; {percent(bar)} asked"
    >
      {#each [0, 0.5, 1] as level (level)}
        <line
          x1={AT.left}
          x2={AT.right}
          y1={y(level)}
          y2={y(level)}
          stroke="var(--line)"
          stroke-width="1.5"
        />
        <text
          x={AT.left - 8}
          y={y(level) + 5}
          text-anchor="end"
          class="number"
          font-size="15"
          fill="var(--soft)">{level * 100}</text
        >
      {/each}
      <line
        x1={AT.left}
        x2={AT.right}
        y1={y(bar)}
        y2={y(bar)}
        stroke="var(--ink)"
        stroke-width="1.6"
        stroke-dasharray="3 3"
      />
      <polyline points={line} fill="none" stroke="var(--cold)" stroke-width="2.5" />
      {#each points as point, index (point.couponId)}
        {#if point.clean}
          <circle cx={x(index)} cy={y(point.mean)} r="5" fill="var(--blue)" />
        {:else}
          <rect
            x={x(index) - 5}
            y={y(point.mean) - 5}
            width="10"
            height="10"
            fill="var(--page)"
            stroke="var(--caution)"
            stroke-width="2.2"
          />
        {/if}
      {/each}
      <text x={AT.right + 6} y={y(last.mean) + 7} class="number" font-size="21" fill="var(--ink)"
        >{Math.round(last.mean * 100)}</text
      >
    </svg>
  {/if}
  <figcaption class="text-sm text-(--soft)">{says}</figcaption>
</figure>
