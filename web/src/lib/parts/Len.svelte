<script lang="ts">
  import { inchParts, lengthText, units } from '$lib/units.svelte'

  let { mm, label = true }: { mm: number; label?: boolean } = $props()
  const parts = $derived(inchParts(mm))
</script>

<span class="number whitespace-nowrap">
  <span class="sr-only">{lengthText(mm)}</span>
  <span aria-hidden="true">
    {#if units.unit === 'mm'}{Number(mm.toFixed(1))}{#if label}&nbsp;mm{/if}
    {:else if parts.top === 0}{parts.whole}{#if label}&nbsp;in{/if}
    {:else}{#if parts.whole > 0}{parts.whole}&#8239;{/if}<sup>{parts.top}</sup>&frasl;<sub>{parts.bottom}</sub
      >{#if label}&nbsp;in{/if}{/if}
  </span>
</span>

<style>
  sup,
  sub {
    font-size: 0.78em;
    line-height: 0;
  }
  sup {
    top: 0;
    vertical-align: 0.42em;
  }
  sub {
    bottom: 0;
    vertical-align: -0.1em;
  }
</style>
