<script lang="ts">
  import type { Snippet } from 'svelte'

  let { name, children }: { name: string; children: Snippet } = $props()
</script>

<div class="row">
  <span>{name}</span>
  <strong>{@render children()}</strong>
</div>

<style>
  .row {
    display: flex;
    align-items: baseline;
    justify-content: space-between;
    gap: 0.75rem;
    border-top: 1px solid var(--line);
    padding: 0.2rem 0;
  }
  span {
    color: var(--soft);
  }
  strong {
    font-family: var(--font-number);
    font-size: 1.35rem;
    font-weight: 600;
    font-variant-numeric: tabular-nums;
    text-align: right;
  }
</style>
