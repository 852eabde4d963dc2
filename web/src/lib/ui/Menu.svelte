<script lang="ts">
  import type { Snippet } from 'svelte'

  type Props = {
    /** What it is called, where the button shows something else. */
    label?: string
    /** Opens from its left edge. */
    left?: boolean
    button: Snippet
    /** The entries; a tap on one closes the menu. */
    children: Snippet
  }
  let { label, left = false, button, children }: Props = $props()
  let open = $state(false)
  let root: HTMLElement
  let opener: HTMLButtonElement

  function onkeydown(event: KeyboardEvent) {
    if (event.key !== 'Escape' || !open) return
    open = false
    opener.focus()
  }
</script>

<svelte:window onpointerdown={(event) => !root.contains(event.target as Node) && (open = false)} />

<div
  class="relative"
  role="presentation"
  bind:this={root}
  {onkeydown}
  onfocusout={(event) => event.relatedTarget && !root.contains(event.relatedTarget as Node) && (open = false)}
>
  <button
    bind:this={opener}
    class="flex min-h-[48px] min-w-[48px] items-center justify-center gap-2 px-1 font-semibold"
    aria-expanded={open}
    aria-label={label}
    onclick={() => (open = !open)}
  >
    {@render button()}
    <svg viewBox="0 0 12 8" class="w-3 shrink-0" aria-hidden="true"
      ><path d="M1 1.5L6 6.5L11 1.5" fill="none" stroke="currentColor" stroke-width="2" /></svg
    >
  </button>
  {#if open}
    <div
      class="sheet absolute {left ? 'left-0' : 'right-0'} z-40 grid min-w-56 gap-1 p-2 shadow-lg"
      role="presentation"
      onclick={(event) => (event.target as HTMLElement).closest('a, [data-closes]') && (open = false)}
    >
      {@render children()}
    </div>
  {/if}
</div>
