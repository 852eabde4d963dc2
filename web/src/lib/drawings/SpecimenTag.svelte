<script lang="ts" module>
  import type { Schema } from '$lib/api/client'

  /** A specimen as it is cut: its name on the drawing, and what came of it. */
  export type Tag = {
    name: string
    /** Null while it is not tested. */
    verdict: Schema['VerdictKind'] | null
    chosen: boolean
    choose: () => void
  }
</script>

<script lang="ts">
  import { verdictName } from '$lib/words'

  /** Where its middle lies, and how wide it is, in the drawing's own units. */
  let { tag, x, y, width }: { tag: Tag; x: number; y: number; width: number } = $props()
  const HEIGHT = 26
  const ground = $derived(
    tag.verdict === 'reject'
      ? 'var(--caution-ground)'
      : tag.verdict === 'accept'
        ? 'var(--done-ground)'
        : 'var(--sheet)',
  )
  const said = $derived(tag.verdict ? verdictName(tag.verdict).toLowerCase() : 'not tested')
</script>

<g
  role="button"
  tabindex="0"
  aria-pressed={tag.chosen}
  aria-label="Specimen, {tag.name}: {said}"
  transform="translate({x} {y})"
  onclick={tag.choose}
  onkeydown={(event) => {
    if (event.key !== 'Enter' && event.key !== ' ') return
    event.preventDefault()
    tag.choose()
  }}
>
  <rect
    x={-width / 2}
    y={-HEIGHT / 2}
    {width}
    height={HEIGHT}
    rx="3"
    fill={tag.chosen ? 'var(--ink)' : ground}
    stroke={tag.verdict === 'reject' ? 'var(--caution)' : 'var(--ink)'}
    stroke-width="1.5"
    stroke-dasharray={tag.verdict ? undefined : '4 3'}
  />
  <text y="5" text-anchor="middle" font-size="14" fill={tag.chosen ? 'var(--page)' : 'var(--ink)'}
    >{tag.name}</text
  >
  {#if tag.verdict === 'accept'}<path
      d="M{width / 2 - 14} {-HEIGHT / 2}l5 5l9 -10"
      fill="none"
      stroke="var(--blue)"
      stroke-width="3"
    />
  {:else if tag.verdict === 'reject'}<path
      d="M{width / 2 - 14} {-HEIGHT / 2 - 5}h5l3 4l3 -4h5v9h-16z"
      fill="var(--caution)"
      stroke="var(--sheet)"
    />{/if}
</g>

<style>
  g {
    cursor: pointer;
  }
  g:focus-visible {
    outline: none;
  }
  g:focus-visible > rect {
    stroke: var(--bronze);
    stroke-width: 4;
    stroke-dasharray: none;
  }
  text {
    pointer-events: none;
  }
</style>
