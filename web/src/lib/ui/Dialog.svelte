<script lang="ts">
  import type { Snippet } from 'svelte'
  import { modal } from './modal.svelte'

  type Props = {
    open: boolean
    /** What it asks; it is read out when it opens. */
    title: string
    size?: 'xs' | 'sm' | 'md' | 'lg' | 'xl'
    dismissable?: boolean
    children: Snippet
  }
  let { open = $bindable(), title, size = 'sm', dismissable = true, children }: Props = $props()

  // Flowbite's dialog is taken out of the page when it closes, and would leave the focus nowhere.
  $effect(() => {
    if (open) void modal.load().catch(() => (open = false))
  })
  /** Until the dialog has come, its keys are not the page's either. */
  function onkeydown(event: KeyboardEvent) {
    if (!open || modal.Part) return
    event.stopImmediatePropagation()
    event.preventDefault()
    if (event.key === 'Escape' && dismissable) open = false
  }
  let before: HTMLElement | null = null
  $effect.pre(() => {
    if (!open) return
    before = document.activeElement as HTMLElement | null
    return giveBack
  })

  /** The page takes no focus while the dialog fades. */
  function giveBack() {
    if (document.querySelector('dialog[open]')) requestAnimationFrame(giveBack)
    else if (document.activeElement === document.body) before?.focus()
  }
</script>

<svelte:window onkeydowncapture={onkeydown} />
{#if modal.Part}<modal.Part bind:open {title} {size} {dismissable} permanent={!dismissable} aria-label={title}
    >{@render children()}</modal.Part
  >{/if}
