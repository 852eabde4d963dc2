<script lang="ts" module>
  // The first page comes whole: only a tap waits for its answer.
  let tapped = false
  for (const kind of ['pointerdown', 'keydown'])
    addEventListener(kind, () => (tapped = true), { once: true, capture: true })
</script>

<script lang="ts">
  import { onMount, type Snippet } from 'svelte'
  import { nextFrame } from './next-frame'

  /** What may come a frame later, so that a tap is answered before it is made: on a slow tablet long panels take their time. */
  let { children }: { children: Snippet } = $props()
  let painted = $state(!tapped)

  onMount(() => (painted ? undefined : nextFrame(() => (painted = true))))
</script>

{#if painted}{@render children()}{/if}
