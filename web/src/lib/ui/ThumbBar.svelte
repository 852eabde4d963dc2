<script lang="ts">
  import type { Snippet } from 'svelte'
  import { foot } from './foot.svelte'
  import { nextFrame } from './next-frame'

  /** The acts of a page: where they stand on a desk, at the foot under the thumb on a tablet. */
  type Props = {
    /** On a desk too it stays in sight, where what stands above it is long. */
    stays?: boolean
    children: Snippet
  }
  let { stays = false, children }: Props = $props()

  /** What else stands at the foot of the page keeps clear of the bar, as high as it is there. */
  function clear(bar: HTMLElement) {
    let giveUp = () => {}
    const watch = new ResizeObserver(() => {
      giveUp()
      giveUp = nextFrame(() => {
        // One that is put aside leaves it to the one that stands.
        if (bar.offsetHeight) foot.px = getComputedStyle(bar).position === 'fixed' ? bar.offsetHeight : 0
      })
    })
    watch.observe(bar)
    return () => {
      giveUp()
      watch.disconnect()
      foot.px = 0
    }
  }
</script>

<div class="thumb-bar flex flex-wrap gap-2" class:stays {@attach clear}>{@render children()}</div>

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
  @media (min-width: 1024px) {
    .stays {
      position: sticky;
      z-index: 30;
      bottom: 0;
      padding-block: 10px;
      border-top: 2px solid var(--steel-edge);
      background: var(--page);
    }
    .stays :global(.lead) {
      min-height: 60px;
      flex: 1 1 0;
      font-size: 1.18rem;
    }
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
  }
  @media (max-width: 520px) {
    .thumb-bar :global(.lead) {
      flex-basis: 100%;
    }
    .thumb-bar :global(.plate) {
      min-height: 56px;
    }
  }
</style>
