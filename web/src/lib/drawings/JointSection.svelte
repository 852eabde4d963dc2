<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { beadName } from '$lib/words'
  import { numberPlace } from './number-place'

  export type Dimension = { key: string; text: string; state: 'open' | 'set' | 'mend'; active: boolean }

  type Props = {
    section: Schema['JointSection']
    /** Beads that are laid, by key. */
    laid?: Set<string>
    /** Beads that belong to this coupon; others of the plan are only hinted at. Left out: a plan to look at, not to log on. */
    own?: Set<string>
    next?: string | null
    /** Beads that are laid here but not yet from end to end. */
    partly?: Set<string>
    /** While a finding is placed: the toe at which it lies, and which bead's toes can be tapped. */
    toes?: { bead: string; chosen: 'a' | 'b' | null }
    ontoe?: (toe: 'a' | 'b') => void
    /** Tappable dimensions by measure; none while welding. */
    dimensions?: Record<string, Dimension>
    onbead?: (key: string) => void
    ondimension?: (key: string) => void
  }
  let {
    section,
    laid = new Set(),
    own,
    next = null,
    partly = new Set(),
    toes,
    ontoe,
    dimensions = {},
    onbead,
    ondimension,
  }: Props = $props()

  const measuring = $derived(Object.keys(dimensions).length > 0)
  const BESIDE = 5 // mm of steel shown beside the joint
  const FIELD = 12 // mm, as wide as a number's field is
  const joint = $derived(section.beads.flatMap((bead) => bead.outline))
  const all = $derived([
    ...section.memberA,
    ...section.memberB,
    ...(section.strip ?? []),
    ...(section.insert ?? []),
    ...(section.restrictionRing ?? []),
    ...joint,
  ])
  // While it is measured the whole of both members is shown; else the joint fills the field.
  const across = $derived(
    measuring || !joint.length ? all : [...joint, ...(section.restrictionRing ?? []).slice(0, 1)],
  )
  const side = $derived(measuring ? 4.5 : BESIDE)
  const top = $derived(Math.max(...all.map((point) => point.y)) + (measuring ? 5.5 : 1.5))
  const bottom = $derived(Math.min(...all.map((point) => point.y)) - (measuring ? 6.5 : 1.5))
  const opening = $derived(section.openingMm)
  const offset = $derived(section.offsetMm)
  const thickness = $derived(section.thicknessMm)
  const face = $derived(section.rootFaceMm)

  const path = (points: { x: number; y: number }[]) =>
    `M${points.map((point) => `${point.x},${-point.y}`).join('L')}Z`
  const codeOf = (bead: Schema['PlannedBead']) =>
    `${bead.layer}${
      bead.beadInLayer > 1 ||
      section.beads.some((other) => other.layer === bead.layer && other.beadInLayer > 1)
        ? String.fromCharCode(96 + bead.beadInLayer)
        : ''
    }`
  // Where each dimension's label stands, in mm.
  const places = $derived<Record<string, { x: number; y: number }>>({
    rootOpeningMm: { x: opening / 2, y: section.strip ? 9 : 3.6 },
    rootFaceMm: { x: -12, y: -Math.max(face / 2, 2.6) },
    offsetMm: { x: opening + 16.5, y: 3.4 },
    bevelDegA: { x: section.memberA.at(-3)!.x - 6.5, y: -thickness - 2.8 },
    bevelDegB: { x: section.memberB.at(-3)!.x + 6.5, y: -thickness - offset - 2.8 },
    face: { x: opening / 2, y: -top + 2.8 },
    rootA: { x: -8, y: -bottom - 2.8 },
    rootB: { x: opening + 8, y: -bottom - 2.8 },
    stripGapMm: { x: -16.5, y: 3.4 },
    ringGapMm: { x: -16.5, y: 3.4 },
  })
  // A number that stands further out than the steel is shown whole.
  const numbers = $derived(Object.keys(dimensions).flatMap((key) => places[key]?.x ?? []))
  const left = $derived(
    Math.min(...across.map((point) => point.x - side), ...numbers.map((x) => x - FIELD / 2 - 0.5)),
  )
  const right = $derived(
    Math.max(...across.map((point) => point.x + side), ...numbers.map((x) => x + FIELD / 2 + 0.5)),
  )
  /** The left and the right end of the layer of a bead, at its face. */
  const toePlaces = $derived.by(() => {
    const layer = section.beads.find((bead) => bead.key === toes?.bead)?.layer
    const points = section.beads.filter((bead) => bead.layer === layer).flatMap((bead) => bead.outline)
    if (!points.length) return []
    // The corner at the face, not the one lower down the same wall.
    const end = (sign: 1 | -1) => points.toSorted((a, b) => sign * (a.x - b.x) || b.y - a.y)[0]!
    return [
      { toe: 'a' as const, name: 'Left toe', ...end(1) },
      { toe: 'b' as const, name: 'Right toe', ...end(-1) },
    ]
  })
  const keyed = (act: () => void) => (event: KeyboardEvent) => {
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault()
      act()
    }
  }
</script>

{#snippet number(bead: Schema['PlannedBead'], isLaid: boolean, isNext: boolean)}
  {@const code = codeOf(bead)}
  {@const place = numberPlace(bead.outline, code.length)}
  {#if place}
    <text
      x={place.x}
      y={place.size * 0.35 - place.y}
      text-anchor="middle"
      class="number"
      font-size={place.size}
      fill={isLaid ? 'var(--sheet)' : isNext ? 'var(--on-straw)' : 'var(--ink)'}>{code}</text
    >
  {/if}
{/snippet}

<svg
  viewBox="{left} {-top} {right - left} {top - bottom}"
  class="max-h-[min(36vh,19rem)] w-full select-none"
  role="group"
  aria-label="Joint section to scale, {own
    ? `${section.beads.filter((bead) => laid.has(bead.key)).length} of ${own.size} beads laid`
    : `${section.beads.length} beads planned`}"
>
  <defs>
    <pattern id="hatch" width="1.6" height="1.6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <line x1="0" y1="0" x2="0" y2="1.6" stroke="var(--steel-edge)" stroke-width="0.16" />
    </pattern>
    <pattern id="partly" width="1" height="1" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <rect width="0.55" height="1" fill="var(--bronze)" />
    </pattern>
  </defs>
  {#each [section.memberA, section.memberB, section.strip ?? [], section.restrictionRing ?? []].filter((one) => one.length) as member, index (index)}
    <path d={path(member)} fill="var(--steel)" />
    <path
      d={path(member)}
      fill="url(#hatch)"
      stroke="var(--ink)"
      stroke-width="1.6"
      vector-effect="non-scaling-stroke"
    />
  {/each}
  {#each section.beads as bead (bead.key)}
    {@const isLaid = laid.has(bead.key)}
    {@const isNext = bead.key === next}
    {#if own?.has(bead.key)}
      <!-- A picture where nothing is tapped. -->
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <g
        role={onbead ? 'button' : 'img'}
        tabindex={onbead ? 0 : undefined}
        aria-pressed={onbead ? isLaid : undefined}
        aria-label="{beadName(bead)}: {isLaid
          ? 'laid'
          : partly.has(bead.key)
            ? 'laid here, not yet from end to end'
            : isNext
              ? 'next, not laid'
              : 'not laid'}"
        data-bead={bead.key}
        onclick={() => onbead?.(bead.key)}
        onkeydown={keyed(() => onbead?.(bead.key))}
      >
        <path
          d={path(bead.outline)}
          fill={isLaid ? 'var(--bronze)' : isNext ? 'var(--straw)' : 'var(--sheet)'}
          stroke={isLaid ? 'var(--sheet)' : 'var(--ink)'}
          stroke-width={isNext ? 0 : 1.4}
          stroke-dasharray={isLaid ? undefined : '5 4'}
          vector-effect="non-scaling-stroke"
        />
        {#if partly.has(bead.key)}<path
            d={path(bead.outline)}
            fill="url(#partly)"
            stroke="var(--ink)"
            stroke-width="1.4"
            stroke-dasharray="5 4"
            vector-effect="non-scaling-stroke"
          />{/if}
        {@render number(bead, isLaid, isNext)}
      </g>
    {:else if !own}
      <path d={path(bead.outline)} fill="var(--straw-ground)" stroke="var(--ink)" stroke-width="0.18" />
      {@render number(bead, false, false)}
    {:else}
      <path
        d={path(bead.outline)}
        fill="none"
        stroke="var(--cold)"
        stroke-width="0.12"
        stroke-dasharray="0.4 0.5"
      />
    {/if}
  {/each}
  {#each section.beads.filter((bead) => bead.key === next && own?.has(bead.key)) as bead (bead.key)}
    <!-- Once more over its neighbours, so that its edge is whole. -->
    <path
      d={path(bead.outline)}
      fill="none"
      stroke="var(--ink)"
      stroke-width="3"
      stroke-dasharray="7 4"
      vector-effect="non-scaling-stroke"
      pointer-events="none"
    />
  {/each}
  {#if section.insert}
    <path
      d={path(section.insert)}
      fill="none"
      stroke="var(--blue)"
      stroke-width="0.35"
      stroke-dasharray="0.8 0.5"
      pointer-events="none"
    />
  {/if}
  {#each toePlaces as one (one.toe)}
    <g
      role="button"
      tabindex="0"
      aria-pressed={toes?.chosen === one.toe}
      aria-label={one.name}
      onclick={() => ontoe?.(one.toe)}
      onkeydown={keyed(() => ontoe?.(one.toe))}
      transform="translate({one.x} {-one.y})"
    >
      <circle
        r="1.7"
        fill={toes?.chosen === one.toe ? 'var(--caution-ground)' : 'var(--sheet)'}
        fill-opacity={toes?.chosen === one.toe ? 0.55 : 0.6}
        stroke="var(--ink)"
        stroke-width={toes?.chosen === one.toe ? 4 : 1.6}
        stroke-dasharray={toes?.chosen === one.toe ? undefined : '4 3'}
        vector-effect="non-scaling-stroke"
      />
      {#if toes?.chosen === one.toe}<path
          d="M-0.8 -0.7h0.45l0.35 0.5l0.35 -0.5h0.45v1.2h-1.6z"
          fill="var(--caution)"
        />{/if}
    </g>
  {/each}
  {#each Object.entries(dimensions) as [key, dimension] (key)}
    {@const place = places[key]}
    {#if place}
      <g
        role="button"
        tabindex="0"
        aria-pressed={dimension.active}
        aria-label={dimension.text}
        data-dimension={key}
        onclick={() => ondimension?.(key)}
        onkeydown={keyed(() => ondimension?.(key))}
        transform="translate({place.x} {place.y})"
      >
        <rect
          x={-FIELD / 2}
          y="-2.1"
          width={FIELD}
          height="4.2"
          rx="0.5"
          fill={dimension.active
            ? 'var(--ink)'
            : dimension.state === 'mend'
              ? 'var(--caution-ground)'
              : dimension.state === 'set'
                ? 'var(--done-ground)'
                : 'var(--straw-ground)'}
          stroke={dimension.state === 'mend' ? 'var(--caution)' : 'var(--ink)'}
          stroke-width={dimension.state === 'open' ? 0.18 : 0.3}
          stroke-dasharray={dimension.state === 'open' ? '0.6 0.4' : undefined}
        />
        <text
          y="0.75"
          text-anchor="middle"
          font-size="2.15"
          class="number"
          fill={dimension.active ? 'var(--page)' : 'var(--ink)'}>{dimension.text}</text
        >
      </g>
    {/if}
  {/each}
</svg>

<style>
  g[role='button'] {
    cursor: pointer;
  }
  g[role='button']:focus-visible {
    outline: none;
  }
  g[role='button']:focus-visible > :first-child {
    stroke: var(--bronze);
    stroke-width: 0.6;
    stroke-dasharray: none;
  }
  text {
    pointer-events: none;
  }
</style>
