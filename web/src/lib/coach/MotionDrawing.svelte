<script lang="ts">
  import type { Schema } from '$lib/api/client'

  /** The rhythm of the hand, seen from above: the bead comes up from below; a dot is a stay. */
  let { draw }: { draw: Schema['Motion'] } = $props()

  const [L, R, M] = [42, 78, 60]
  const steps = [84, 68, 52, 36, 20]
  const zigzag = steps.map((y, index) => [index % 2 ? R : L, y] as const)
  const PATHS: Record<Schema['Motion'], { d: string; stays: (readonly [number, number])[] }> = {
    straight: { d: `M${M} 84V18`, stays: [] },
    weave: { d: `M${zigzag.map((point) => point.join(' ')).join('L')}`, stays: zigzag },
    flick: { d: `M${zigzag.map((point) => point.join(' ')).join('L')}`, stays: [] },
    whip: {
      d: `M${M} 78V40M${M} 40C78 44 78 70 ${M} 72M${M} 72V58V20M${M} 20C78 24 78 50 ${M} 54`,
      stays: [
        [M, 78],
        [M, 54],
      ],
    },
    circles: {
      d: `M${M} 84C84 84 84 60 ${M} 62C40 64 44 82 ${M} 78C84 74 84 44 ${M} 46C40 48 44 64 ${M} 62C84 56 84 26 ${M} 28`,
      stays: [],
    },
    steps: {
      d: `M${M} 84V18`,
      stays: [
        [M, 84],
        [M, 62],
        [M, 40],
        [M, 18],
      ],
    },
    dip: {
      d: `M${M} 84V18M96 70L66 70M96 46L66 46M96 22L66 22`,
      stays: [
        [M, 70],
        [M, 46],
        [M, 22],
      ],
    },
    sideStep: {
      d: `M54 84L66 76L54 68L66 60L54 52L66 44L54 36L66 28L54 20`,
      stays: [],
    },
    toAndFro: { d: `M${M} 84V62V72V46V58V30V42V18`, stays: [] },
  }
  const path = $derived(PATHS[draw])
</script>

<svg viewBox="0 0 120 108" class="h-full w-full" aria-hidden="true">
  <rect x="8" y="6" width="104" height="90" fill="var(--steel)" />
  <rect x="36" y="6" width="48" height="90" fill="var(--sheet)" />
  <path d="M36 6V96M84 6V96" stroke="var(--ink)" stroke-width="1.5" stroke-dasharray="5 4" />
  <path d="M40 96Q60 76 80 96Z" fill="var(--bronze)" />
  <path
    d={path.d}
    fill="none"
    stroke="var(--ink)"
    stroke-width="2.5"
    stroke-linecap="round"
    stroke-linejoin="round"
  />
  {#each path.stays as [x, y], index (index)}<circle cx={x} cy={y} r="5" fill="var(--bronze)" />{/each}
</svg>
