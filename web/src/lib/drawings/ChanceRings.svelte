<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { percent, stageName } from '$lib/words'

  let { elements }: { elements: Schema['ElementChance'][] } = $props()

  type Cell = { stage: string; zone: string | null; chance: number }
  const cells = $derived<Cell[]>(
    elements.map(({ element, chance }) => {
      const [stage = '', zone = null] = element.split('/')
      return { stage, zone, chance }
    }),
  )
  const stages = $derived([...new Set(cells.map((cell) => cell.stage))])
  const zoned = $derived(stages.filter((stage) => cells.some((cell) => cell.stage === stage && cell.zone)))
  const weakest = $derived(cells.reduce((low, cell) => (cell.chance < low.chance ? cell : low)))

  // The clock, in minutes: where each zone lies. The root is the innermost ring, as it is in the joint.
  const ARCS: Record<string, [number, number][]> = {
    bottom: [[270, 450]],
    side: [
      [90, 270],
      [450, 630],
    ],
    top: [[630, 810]],
  }
  const INNER = 34
  const ring = $derived((104 - INNER) / Math.max(1, zoned.length))
  const at = (minutes: number, radius: number) => {
    const angle = (minutes / 720) * 2 * Math.PI
    return `${Math.sin(angle) * radius},${-Math.cos(angle) * radius}`
  }
  function sector([from, to]: [number, number], index: number): string {
    const [low, high] = [INNER + index * ring, INNER + (index + 1) * ring]
    return `M${at(from, low)}L${at(from, high)}A${high} ${high} 0 0 1 ${at(to, high)}L${at(to, low)}A${low} ${low} 0 0 0 ${at(from, low)}Z`
  }
  // Dark where it is sure to be clean, pale where it is not; the number says it too.
  const shade = (chance: number) =>
    `color-mix(in oklab, var(--blue) ${Math.round(chance ** 4 * 100)}%, var(--sheet))`
  const ink = (chance: number) => (chance > 0.86 ? 'var(--sheet)' : 'var(--ink)')
  const middleOf = (zone: string) => ({ bottom: 360, side: 180, top: 0 })[zone] ?? 0
  const says = (cell: Cell) =>
    `${stageName(cell.stage as Schema['Stage'])}${cell.zone ? `, ${cell.zone}` : ''}: ${percent(cell.chance)}`
</script>

<figure>
  {#if zoned.length}
    <svg
      viewBox="-112 -112 224 224"
      class="mx-auto w-full max-w-80"
      role="img"
      aria-label={cells.map(says).join('; ')}
    >
      {#each zoned as stage, index (stage)}
        {#each cells.filter((cell) => cell.stage === stage && cell.zone) as cell (cell.zone)}
          {#each ARCS[cell.zone!] ?? [] as arc (arc[0])}
            <path
              d={sector(arc, index)}
              fill={shade(cell.chance)}
              stroke={cell === weakest ? 'var(--caution)' : 'var(--steel-edge)'}
              stroke-width={cell === weakest ? 2.5 : 0.8}
            />
          {/each}
          <text
            x={at(middleOf(cell.zone!), INNER + (index + 0.5) * ring).split(',')[0]}
            y={Number(at(middleOf(cell.zone!), INNER + (index + 0.5) * ring).split(',')[1]) + 4}
            text-anchor="middle"
            font-size="10"
            class="number"
            fill={ink(cell.chance)}>{Math.round(cell.chance * 100)}</text
          >
        {/each}
      {/each}
      <text y="-3" text-anchor="middle" font-size="8.5" fill="var(--soft)">root inside,</text>
      <text y="8" text-anchor="middle" font-size="8.5" fill="var(--soft)">cap outside</text>
    </svg>
  {/if}
  {#if zoned.length < stages.length}
    <div
      class="mt-1 flex gap-1"
      role="img"
      aria-label={cells
        .filter((cell) => !cell.zone)
        .map(says)
        .join('; ')}
    >
      {#each cells.filter((cell) => !cell.zone) as cell (cell.stage)}
        <div
          class="flex min-w-0 grow flex-col items-center border px-1 py-2"
          style:background={shade(cell.chance)}
          style:color={ink(cell.chance)}
          style:border-color={cell === weakest ? 'var(--caution)' : 'var(--steel-edge)'}
          style:border-width={cell === weakest ? '3px' : '1px'}
        >
          <span>{stageName(cell.stage as Schema['Stage'])}</span>
          <span class="number text-lg">{percent(cell.chance)}</span>
        </div>
      {/each}
    </div>
  {/if}
  <figcaption class="mt-1">
    Weakest: <strong>{says(weakest)}</strong>. The chance that each comes out clean, in %.
  </figcaption>
</figure>
