<script lang="ts">
  import type { Schema } from '$lib/api/client'

  let {
    kind,
    takeBack = false,
    size = 24,
  }: { kind: Schema['Advised']; takeBack?: boolean; size?: number } = $props()
</script>

<!-- Each advice has a shape of its own beside its colour; the words stand next to it. -->
<svg viewBox="0 0 24 24" width={size} height={size} class="shrink-0" fill="none" aria-hidden="true">
  {#if takeBack}
    <path d="M9 5L4 10L9 15M4 10H15A5 5 0 0 1 15 20H11" stroke="var(--caution)" stroke-width="2.6" />
  {:else if kind === 'testNow'}
    <path d="M4 13L9.5 18.5L20 5.5" stroke="var(--blue)" stroke-width="2.8" />
  {:else if kind === 'practise'}
    <path d="M9 4L17 12L9 20" stroke="var(--bronze)" stroke-width="2.8" />
  {:else if kind === 'passed'}
    <path d="M2 19V12Q2 6.5 12 6Q22 6.5 22 12V19Z" fill="var(--blue)" />
  {:else if kind === 'hold'}
    <path d="M5 8H19M5 16H19" stroke="var(--cold)" stroke-width="2.8" />
  {:else}
    <path d="M4 12H20" stroke="var(--cold)" stroke-width="2.6" />
  {/if}
</svg>
