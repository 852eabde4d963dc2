<script lang="ts" module>
  // The first page comes whole: only a tap waits for its answer.
  let tapped = false
  for (const kind of ['pointerdown', 'keydown'])
    addEventListener(kind, () => (tapped = true), { once: true, capture: true })
</script>

<script lang="ts">
  import { onMount, type Snippet } from 'svelte'

  /** What may come a frame later, so that a tap is answered before it is made: on a slow tablet long panels take their time. */
  let { children }: { children: Snippet } = $props()
  let painted = $state(!tapped)

  onMount(() => {
    if (painted) return
    let timer: ReturnType<typeof setTimeout> | undefined
    // After the frame that is painted next, not before it.
    const frame = requestAnimationFrame(() => (timer = setTimeout(() => (painted = true))))
    // In a page that is not shown no frame comes.
    const late = setTimeout(() => (painted = true), 200)
    return () => {
      cancelAnimationFrame(frame)
      clearTimeout(timer)
      clearTimeout(late)
    }
  })
</script>

{#if painted}{@render children()}{/if}
