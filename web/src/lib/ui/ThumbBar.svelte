<script lang="ts">
  import type { Snippet } from 'svelte'

  /** The acts of a page: where they stand on a desk, at the foot under the thumb on a tablet. */
  let { children }: { children: Snippet } = $props()
</script>

<div class="thumb-bar flex flex-wrap gap-2">{@render children()}</div>

<style>
  .thumb-bar :global(.lead) {
    min-height: 76px;
    flex: 3 1 100%;
    font-size: 1.5rem;
  }
  .thumb-bar :global(.plate) {
    min-height: 60px;
    flex: 1 1 auto;
  }
  @media (max-width: 1023px) {
    .thumb-bar :global(.lead) {
      flex-basis: auto;
    }
    .thumb-bar {
      position: fixed;
      z-index: 30;
      inset: auto 0 0;
      padding: 10px 1rem;
      border-top: 2px solid var(--steel-edge);
      background: var(--sheet);
    }
    .thumb-bar :global(.plate) {
      min-height: 76px;
    }
    :global(body:has(.thumb-bar)) {
      --foot: 100px;
    }
  }
  @media (max-width: 520px) {
    .thumb-bar :global(.lead) {
      flex-basis: 100%;
    }
    .thumb-bar :global(.plate) {
      min-height: 56px;
    }
    :global(body:has(.thumb-bar)) {
      --foot: 168px;
    }
  }
</style>
