<script lang="ts">
  import type { Schema } from '$lib/api/client'

  /** Where the bead goes in the section, and how the rod leans at it. */
  type Props = { section: Schema['JointSection']; bead: string; laid: Set<string>; leanDeg: number }
  let { section, bead, laid, leanDeg }: Props = $props()

  const path = (points: { x: number; y: number }[]) =>
    `M${points.map((point) => `${point.x},${-point.y}`).join('L')}Z`
  const beads = $derived(section.beads)
  const next = $derived(beads.find((one) => one.key === bead))
  const xs = $derived(beads.flatMap((one) => one.outline.map((point) => point.x)))
  const ys = $derived([
    ...beads.flatMap((one) => one.outline.map((point) => point.y)),
    ...(section.strip ?? []).map((point) => point.y),
  ])
  const left = $derived(Math.min(...xs) - 4)
  const width = $derived(Math.max(...xs) + 4 - left)
  const top = $derived(Math.max(...ys) + 5)
  const height = $derived(top - Math.min(...ys) + 1)
  const aim = $derived.by(() => {
    const points = next?.outline ?? []
    const mean = (pick: (point: { x: number; y: number }) => number) =>
      points.reduce((sum, point) => sum + pick(point), 0) / Math.max(1, points.length)
    return { x: mean((point) => point.x), y: mean((point) => point.y) }
  })
  const reach = $derived((top - aim.y) / Math.max(0.3, Math.cos((leanDeg * Math.PI) / 180)))
  const end = $derived({
    x: aim.x - reach * Math.sin((leanDeg * Math.PI) / 180),
    y: aim.y + reach * Math.cos((leanDeg * Math.PI) / 180),
  })
</script>

<svg viewBox="{left} {-top} {width} {height}" class="h-full w-full" aria-hidden="true">
  {#each [section.memberA, section.memberB, section.strip ?? [], section.insert ?? [], section.restrictionRing ?? []].filter((one) => one.length) as member, index (index)}
    <path d={path(member)} fill="var(--steel)" stroke="var(--ink)" vector-effect="non-scaling-stroke" />
  {/each}
  {#each beads.filter((one) => one.key !== bead && laid.has(one.key)) as one (one.key)}
    <path
      d={path(one.outline)}
      fill="var(--bronze)"
      stroke="var(--sheet)"
      vector-effect="non-scaling-stroke"
    />
  {/each}
  {#if next}
    <path
      d={path(next.outline)}
      fill="var(--straw)"
      stroke="var(--ink)"
      stroke-width="2"
      stroke-dasharray="5 3"
      vector-effect="non-scaling-stroke"
    />
    <path
      d="M{aim.x},{-aim.y}L{end.x},{-end.y}"
      stroke="var(--ink)"
      stroke-width="5"
      stroke-linecap="round"
      vector-effect="non-scaling-stroke"
    />
  {/if}
</svg>
