<script lang="ts">
  import type { Schema } from '$lib/api/client'

  let { sketch, next, label }: { sketch: Schema['SectionSketch']; next: string | null; label: string } =
    $props()

  const BESIDE = 5
  const points = (flat: readonly number[]) =>
    Array.from({ length: flat.length / 2 }, (_, index) => ({ x: flat[2 * index]!, y: -flat[2 * index + 1]! }))
  const path = (flat: readonly number[]) =>
    `M${points(flat)
      .map((point) => `${point.x},${point.y}`)
      .join('L')}Z`
  const joint = $derived(sketch.beads.flatMap((bead) => points(bead.outline)))
  const steel = $derived(sketch.steel.flatMap(points))
  const left = $derived(Math.min(...joint.map((point) => point.x)) - BESIDE)
  const right = $derived(Math.max(...joint.map((point) => point.x)) + BESIDE)
  const top = $derived(Math.min(...joint.map((point) => point.y), ...steel.map((point) => point.y)) - 0.6)
  const bottom = $derived(Math.max(...joint.map((point) => point.y), ...steel.map((point) => point.y)) + 0.6)
</script>

<svg viewBox="{left} {top} {right - left} {bottom - top}" class="h-full w-full" role="img" aria-label={label}>
  {#each sketch.steel as member, index (index)}
    <path d={path(member)} fill="var(--steel)" stroke="var(--ink)" vector-effect="non-scaling-stroke" />
  {/each}
  {#each sketch.beads.filter((bead) => bead.key !== next) as bead (bead.key)}
    <path
      d={path(bead.outline)}
      fill={bead.laid ? 'var(--bronze)' : 'var(--sheet)'}
      stroke={bead.laid ? 'var(--sheet)' : 'var(--ink)'}
      stroke-width={bead.laid ? 1.2 : 1}
      stroke-dasharray={bead.laid ? undefined : '4 3'}
      vector-effect="non-scaling-stroke"
    />
  {/each}
  {#each sketch.beads.filter((bead) => bead.key === next) as bead (bead.key)}
    <path
      d={path(bead.outline)}
      fill="var(--straw)"
      stroke="var(--ink)"
      stroke-width="2.4"
      stroke-dasharray="5 3"
      vector-effect="non-scaling-stroke"
    />
  {/each}
</svg>
