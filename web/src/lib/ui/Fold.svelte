<script lang="ts">
  import type { Snippet } from 'svelte'

  type Props = {
    name: string
    /** What it holds now, so that it need not be opened to be read. */
    value?: string
    open?: boolean
    children: Snippet
  }
  let { name, value = '', open = $bindable(false), children }: Props = $props()
  // What is folded is made when it is first opened, and keeps what was said in it when it is folded again.
  let opened = $state(false)
  $effect.pre(() => {
    if (open) opened = true
  })
</script>

<details class="fold" bind:open>
  <summary>
    <span class="font-semibold">{name}</span>
    <span class="ml-auto min-w-0 truncate text-(--soft)">{value}</span>
    <svg viewBox="0 0 12 8" class="w-3 shrink-0" aria-hidden="true"
      ><path d="M1 1.5L6 6.5L11 1.5" fill="none" stroke="currentColor" stroke-width="2" /></svg
    >
  </summary>
  {#if opened}<div class="pb-3">{@render children()}</div>{/if}
</details>

<style>
  .fold {
    border-bottom: 1px solid var(--line);
  }
  summary {
    display: flex;
    min-height: 52px;
    align-items: center;
    gap: 0.75rem;
    padding: 0.25rem 0.25rem;
    cursor: pointer;
    list-style: none;
  }
  summary::-webkit-details-marker {
    display: none;
  }
  [open] > summary svg {
    rotate: 180deg;
  }
</style>
