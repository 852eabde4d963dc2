<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { percent } from '$lib/words'

  type Props = {
    passing: Schema['BandView']
    bar?: number
    /** The interval is too wide for the number to mean anything. */
    unclear?: boolean
    tall?: boolean
  }
  let { passing, bar, unclear = false, tall = false }: Props = $props()
  const left = $derived(`${passing.lower * 100}%`)
  const width = $derived(`${Math.max(1, (passing.upper - passing.lower) * 100)}%`)
  const says = $derived(
    `${unclear ? 'Too little to tell' : `${percent(passing.mean)} to pass`}, between ${percent(passing.lower)} and ${percent(passing.upper)}${bar === undefined ? '' : `; ${percent(bar)} asked`}`,
  )
</script>

<!-- From 0 to 100: the band holds 90 % of what fits the coupons, the tick is the best guess, the dotted line is what is asked. -->
<div class="track" class:tall role="img" aria-label={says}>
  <i class="all"></i>
  <i class="band" class:unclear style:left style:width></i>
  {#if !unclear}<i class="mean" style:left="{passing.mean * 100}%"></i>{/if}
  {#if bar !== undefined}<i class="bar" style:left="{bar * 100}%"></i>{/if}
</div>

<style>
  .track {
    position: relative;
    width: 100%;
    height: 26px;
  }
  .tall {
    height: 34px;
  }
  i {
    position: absolute;
    top: 50%;
    translate: 0 -50%;
  }
  .all {
    left: 0;
    width: 100%;
    height: 6px;
    background: var(--line);
  }
  .band {
    height: 14px;
    border: 1.5px solid var(--blue);
    background: color-mix(in srgb, var(--blue) 32%, transparent);
  }
  .band.unclear {
    border: 1.5px dashed var(--cold);
    background: none;
  }
  .mean {
    width: 4px;
    height: 20px;
    margin-left: -2px;
    background: var(--ink);
  }
  .bar {
    height: 100%;
    margin-left: -1px;
    border-left: 2px dotted var(--ink);
  }
</style>
