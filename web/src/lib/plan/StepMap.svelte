<script lang="ts">
  import type { Schema } from '$lib/api/client'

  type Props = {
    steps: Schema['StepView'][]
    way: Schema['WayStep'][]
    chosen: string | null
    onchoose: (test: string) => void
  }
  let { steps, way, chosen, onchoose }: Props = $props()

  const COLUMN = 124
  const ROW = 58
  const WIDE = 106
  const HIGH = 46
  const byTest = $derived(new Map(steps.map((step) => [step.test, step])))
  // To the right of everything that it may come after; the server lets no circle in.
  const column = (test: string): number =>
    Math.max(
      -1,
      ...(byTest
        .get(test)
        ?.after.flat()
        .filter((one) => byTest.has(one))
        .map(column) ?? []),
    ) + 1
  const states = $derived(new Map(way.map((step) => [step.test, step])))
  const columns = $derived.by(() => {
    const at: Record<number, Schema['StepView'][]> = {}
    for (const step of steps) (at[column(step.test)] ??= []).push(step)
    return at
  })
  const places = $derived(
    new Map(
      Object.entries(columns).flatMap(([depth, own]) =>
        own.map((step, row) => [step.test, { x: 4 + Number(depth) * COLUMN, y: 16 + row * ROW }] as const),
      ),
    ),
  )
  const width = $derived(8 + WIDE + Math.max(...Object.keys(columns).map(Number)) * COLUMN)
  const height = $derived(20 + Math.max(...Object.values(columns).map((own) => own.length)) * ROW)
  const edges = $derived(
    steps.flatMap((step) =>
      step.after.flatMap((group) =>
        group
          .filter((from) => places.has(from))
          .map((from) => ({
            from,
            to: step.test,
            strict: step.strict,
            lit: from === chosen || step.test === chosen,
          })),
      ),
    ),
  )
  const WORDS = { behind: 'behind', now: 'now', ahead: 'ahead' } as const
  const lines = (title: string) => {
    const [product = '', ...rest] = title.split(', ')
    const how = rest
      .join(', ')
      .replace('gas tungsten arc', 'GTAW')
      .replace('covered electrode', 'SMAW')
      .replace('self-shielded flux-cored', 'FCAW-S')
      .replace('gas-shielded flux-cored', 'FCAW-G')
      .replace('short-arc solid wire', 'GMAW')
      .replace('with backing', 'backing')
    const cut = (text: string, most: number) =>
      text.length > most ? `${text.slice(0, most - 1).trimEnd()}…` : text
    return [cut(product, 10), cut(how, 17)]
  }
</script>

<div class="overflow-x-auto">
  <svg
    {width}
    {height}
    viewBox="0 0 {width} {height}"
    role="group"
    aria-label="Steps, those that need less on the left"
  >
    {#each edges as edge (`${edge.from} ${edge.to}`)}
      {@const a = places.get(edge.from)!}
      {@const b = places.get(edge.to)!}
      <path
        d="M{a.x + WIDE},{a.y + HIGH / 2} C{a.x + WIDE + 28},{a.y + HIGH / 2} {b.x - 28},{b.y +
          HIGH / 2} {b.x},{b.y + HIGH / 2}"
        fill="none"
        stroke={edge.lit ? 'var(--bronze)' : 'var(--steel)'}
        stroke-width={edge.lit ? 3 : 1.3}
        stroke-dasharray={edge.strict ? undefined : '5 4'}
      />
    {/each}
    {#each steps as step (step.test)}
      {@const at = places.get(step.test)!}
      {@const on = states.get(step.test)}
      {@const [first, second] = lines(step.title)}
      <g
        role="button"
        tabindex="0"
        class="step {on?.state ?? 'off'}"
        aria-pressed={chosen === step.test}
        aria-label="{step.test} {step.title}{on ? `, ${WORDS[on.state]}${on.isTarget ? ', goal' : ''}` : ''}"
        transform="translate({at.x} {at.y})"
        onclick={() => onchoose(step.test)}
        onkeydown={(event) => {
          if (event.key === 'Enter' || event.key === ' ') {
            event.preventDefault()
            onchoose(step.test)
          }
        }}
      >
        <title>{step.test} {step.title}</title>
        <rect width={WIDE} height={HIGH} rx="2" />
        <text class="number" x="8" y="19" font-size="18">{step.test}</text>
        <text x="36" y="19" font-size="12">{first}</text>
        <text x="8" y="37" font-size="11">{second}</text>
        {#if on?.isTarget}<text
            class="word"
            x={WIDE - 2}
            y="-3"
            text-anchor="end"
            font-size="12"
            font-weight="700">goal</text
          >{/if}
        {#if on?.state === 'behind'}<text x={WIDE - 8} y="38" text-anchor="end" font-size="13">✓</text>{/if}
      </g>
    {/each}
  </svg>
</div>

<style>
  rect {
    fill: var(--sheet);
    stroke: var(--steel-edge);
    stroke-width: 1.2;
  }
  text {
    fill: var(--ink);
  }
  .step {
    cursor: pointer;
  }
  .off rect {
    stroke-dasharray: 3 3;
  }
  .behind rect {
    fill: var(--done-ground);
    stroke: var(--blue);
  }
  .now rect {
    fill: var(--straw);
    stroke: var(--bronze);
    stroke-width: 3;
  }
  .now text:not(.word) {
    fill: var(--on-straw);
  }
  .ahead rect {
    fill: var(--straw-ground);
    stroke: var(--bronze);
  }
  .step:focus-visible rect,
  .step[aria-pressed='true'] rect {
    stroke: var(--ink);
    stroke-width: 4;
  }
  .step:focus {
    outline: none;
  }
</style>
