<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { units } from '$lib/units.svelte'

  /** Bars drawn to one scale, each with its cuts. */
  let { bars, longest }: { bars: Schema['CutBar'][]; longest: number } = $props()
  const WIDE = 1000
  const HIGH = 36
  const text = (mm: number) =>
    units.unit === 'mm' ? mm.toFixed(0) : (mm / 25.4).toFixed(mm % 25.4 < 0.05 ? 0 : 1)
</script>

<svg
  viewBox="0 0 {WIDE} {bars.length * (HIGH + 8)}"
  class="w-full"
  role="img"
  aria-label="{bars.length} {bars.length === 1 ? 'bar' : 'bars'} with their cuts; the table below says them"
>
  {#each bars as bar, row (row)}
    {@const scale = WIDE / longest}
    {@const y = row * (HIGH + 8)}
    <rect x="0" {y} width={bar.lengthMm * scale} height={HIGH} class="left" class:kept={bar.kept} />
    {#each bar.cuts as cut, index (index)}
      {@const x = bar.cuts.slice(0, index).reduce((sum, one) => sum + one, 0) * scale}
      <rect {x} {y} width={cut * scale - 1.5} height={HIGH} class="cut" />
      {#if cut * scale > 52}
        <text x={x + (cut * scale) / 2} y={y + 26} text-anchor="middle" font-size="22">{text(cut)}</text>
      {/if}
    {/each}
    {#if bar.leftMm * scale > 120}
      <text class="rest" x={bar.lengthMm * scale - 6} y={y + 26} text-anchor="end" font-size="22"
        >{text(bar.leftMm)} {bar.kept ? 'kept' : 'scrap'}</text
      >
    {/if}
  {/each}
</svg>

<style>
  .left {
    fill: var(--page);
    stroke: var(--steel-edge);
  }
  .kept {
    fill: var(--straw-ground);
  }
  .cut {
    fill: var(--steel);
    stroke: var(--ink);
    stroke-width: 0.8;
  }
  text {
    font-family: var(--font-number);
    font-weight: 600;
    fill: var(--ink);
  }
  .cut + text {
    fill: #14181b;
  }
</style>
