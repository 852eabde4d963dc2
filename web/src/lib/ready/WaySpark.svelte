<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { percent } from '$lib/words'

  let { way }: { way: Schema['WayPoint'][] } = $props()
  const WIDTH = 92
  const HEIGHT = 30
  const EDGE = 6
  const x = (index: number) =>
    way.length === 1 ? WIDTH / 2 : EDGE + (index / (way.length - 1)) * (WIDTH - 2 * EDGE)
  const y = (chance: number) => HEIGHT - EDGE - chance * (HEIGHT - 2 * EDGE)
  const line = $derived(way.map((point, index) => `${x(index)},${y(point.passing)}`).join(' '))
  // Over half of what is shown: one coupon alone is no direction.
  const STEADY = 0.04
  const gone = $derived(
    way.length < 3 ? 0 : way.at(-1)!.passing - way[Math.floor((way.length - 1) / 2)]!.passing,
  )
  const clean = $derived(way.filter((point) => point.clean).length)
  const says = $derived(
    `${clean} of the last ${way.length} clean; from ${percent(way[0]!.passing)} to ${percent(way.at(-1)!.passing)}`,
  )
</script>

<!-- A dot is a clean coupon, an open square one with a fault. -->
<svg
  viewBox="0 0 {WIDTH + 26} {HEIGHT}"
  width={WIDTH + 26}
  height={HEIGHT}
  class="max-w-full"
  role="img"
  aria-label={says}
>
  <polyline points={line} fill="none" stroke="var(--cold)" stroke-width="1.6" />
  {#each way as point, index (index)}
    {#if point.clean}
      <circle cx={x(index)} cy={y(point.passing)} r="3.4" fill="var(--blue)" />
    {:else}
      <rect
        x={x(index) - 3.6}
        y={y(point.passing) - 3.6}
        width="7.2"
        height="7.2"
        fill="var(--page)"
        stroke="var(--caution)"
        stroke-width="1.8"
      />
    {/if}
  {/each}
  {#if way.length > 2}
    <g
      transform="translate({WIDTH + 14} {HEIGHT / 2}) rotate({gone > STEADY ? -45 : gone < -STEADY ? 45 : 0})"
      stroke="var(--soft)"
      stroke-width="1.8"
      fill="none"><path d="M-7 0H6M1.5 -4.5L6.5 0L1.5 4.5" /></g
    >
  {/if}
</svg>
