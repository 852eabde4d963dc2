<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { shortDay } from '$lib/weeks'

  type Props = {
    week: Schema['WeekView']
    cells: Schema['PlannedCell'][]
    by: 'student' | 'booth'
    chosen: { studentId: string; slot: number } | null
    onchoose: (studentId: string, slot: number) => void
    onmove: (studentId: string, from: number, to: number) => void
  }
  let { week, cells, by, chosen, onchoose, onmove }: Props = $props()

  const slots = $derived(week.days.flatMap((day) => day.slots))
  const booths = $derived(new Map(week.booths.map((one) => [one.id, one])))
  const students = $derived(new Map(week.students.map((one) => [one.id, one])))
  const ofStudent = $derived(new Map(cells.map((cell) => [`${cell.studentId} ${cell.slot}`, cell])))
  const costs = $derived(
    new Map(
      [...Map.groupBy(cells, (cell) => cell.studentId)].map(([id, own]) => [
        id,
        own.reduce((sum, cell) => sum + cell.cost, 0),
      ]),
    ),
  )
  const ofBooth = $derived(new Map(cells.map((cell) => [`${cell.boothId} ${cell.slot}`, cell])))
  const MARKS: Record<string, string> = { underRules: 'whole', coached: 'beside', drill: 'part' }
  let dragged = $state<{ studentId: string; slot: number } | null>(null)
  let over = $state<number | null>(null)

  const brief = (cell: Schema['PlannedCell']) =>
    `${cell.testId} ${cell.name}`
      .replace('Full coupon, as under test', 'whole')
      .replace('Full coupon, coached', 'coached')
      .replace(', on a filled blank', '')
      .replace(/, (\d) times/, ' ×$1')
      .replace(/, part (\d) of (\d)/, ' $1/$2')

  // "Dev Pillai" and "Dev Moe" never share a short form: the first letter of the last name goes along.
  const short = (name: string) => {
    const [first = '', ...rest] = name.split(' ')
    return rest.length ? `${first} ${rest.at(-1)![0]}.` : first
  }

  function onkeydown(
    event: KeyboardEvent,
    cell: Schema['PlannedCell'] | undefined,
    studentId: string,
    slot: number,
  ) {
    const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
    if (step && event.altKey && cell?.kind) {
      event.preventDefault()
      const comes = students.get(studentId)?.comes ?? []
      const at = slots.indexOf(slot)
      // The nearest period in which the student comes and has nothing yet.
      const that = step > 0 ? slots.slice(at + 1) : slots.slice(0, at).toReversed()
      const to = that.find((one) => comes.includes(one) && !ofStudent.has(`${studentId} ${one}`))
      if (to !== undefined) onmove(studentId, slot, to)
    } else if (event.key.startsWith('Arrow')) {
      event.preventDefault()
      const here = event.currentTarget as HTMLElement
      const column = here.closest('td')!.cellIndex
      const row = here.closest('tr')!
      const target = step
        ? row.cells[column + step]
        : (event.key === 'ArrowUp' ? row.previousElementSibling : row.nextElementSibling)?.children[column]
      target?.querySelector('button')?.focus()
    }
  }

  function drop(event: DragEvent, studentId: string, slot: number) {
    event.preventDefault()
    if (dragged && dragged.studentId === studentId && dragged.slot !== slot)
      onmove(studentId, dragged.slot, slot)
    dragged = over = null
  }
</script>

<div class="overflow-x-auto" data-board>
  <table class="board w-full">
    <thead>
      <tr>
        <th rowspan="2" class="text-left">{by === 'student' ? 'Student' : 'Booth'}</th>
        {#each week.days as day (day.day)}<th colspan={day.slots.length} class="day">{shortDay(day.day)}</th
          >{/each}
      </tr>
      <tr>
        {#each week.days as day (day.day)}
          {#each day.slots as slot, index (slot)}
            <th class="text-xs" class:day={index === 0}>{week.periodNames[slot % week.periodNames.length]}</th
            >
          {/each}
        {/each}
      </tr>
    </thead>
    <tbody>
      {#each by === 'student' ? week.students : [] as student (student.id)}
        <tr>
          <th scope="row" class="text-left whitespace-nowrap"
            ><a
              class="underline decoration-(--line) underline-offset-4"
              href="/plan/steps?student={student.id}">{student.name}</a
            >{#if costs.get(student.id)}<span class="block text-xs font-normal text-(--soft)"
                >costs {costs.get(student.id)!.toFixed(0)}</span
              >{/if}</th
          >
          {#each week.days as day (day.day)}
            {#each day.slots as slot, index (slot)}
              {@const cell = ofStudent.get(`${student.id} ${slot}`)}
              {@const away = student.away.includes(slot)}
              <td
                class:day={index === 0}
                class:not={!student.comes.includes(slot) && !away}
                class:over={over === slot && dragged?.studentId === student.id}
                ondragover={(event) => {
                  if (dragged?.studentId === student.id) {
                    event.preventDefault()
                    over = slot
                  }
                }}
                ondrop={(event) => drop(event, student.id, slot)}
              >
                <button
                  class="cell {cell ? (cell.kind ? MARKS[cell.kind] : 'sitting') : ''}"
                  aria-pressed={chosen?.studentId === student.id && chosen.slot === slot}
                  draggable={cell?.kind != null}
                  title={cell?.why}
                  ondragstart={() => (dragged = { studentId: student.id, slot })}
                  ondragend={() => (dragged = over = null)}
                  onkeydown={(event) => onkeydown(event, cell, student.id, slot)}
                  onclick={() => onchoose(student.id, slot)}
                  aria-label="{student.name}, {shortDay(day.day)} {week.periodNames[
                    slot % week.periodNames.length
                  ]}: {cell
                    ? `${cell.name}, ${cell.testId}, booth ${booths.get(cell.boothId)?.number}`
                    : away
                      ? 'absent'
                      : student.comes.includes(slot)
                        ? 'free'
                        : 'does not come'}"
                >
                  {#if cell}
                    <span class="number text-lg leading-none"
                      >{booths.get(cell.boothId)?.number}{cell.pinned ? ' ▪' : ''}</span
                    >
                    <span class="what">{brief(cell)}</span>
                  {:else if away}<span class="what">absent</span>{/if}
                </button>
              </td>
            {/each}
          {/each}
        </tr>
      {/each}
      {#each by === 'booth' ? week.booths : [] as booth (booth.id)}
        <tr>
          <th scope="row" class="text-left whitespace-nowrap"
            ><span class="number text-xl">{booth.number}</span>
            <span class="text-xs font-normal text-(--soft)"
              >{booth.closedWhy ?? booth.processes.join(', ')}</span
            ></th
          >
          {#each week.days as day (day.day)}
            {#each day.slots as slot, index (slot)}
              {@const cell = ofBooth.get(`${booth.id} ${slot}`)}
              <td class:day={index === 0} class:not={booth.closedWhy != null}>
                {#if cell}
                  {@const name = students.get(cell.studentId)?.name ?? ''}
                  <button
                    class="cell {cell.kind ? MARKS[cell.kind] : 'sitting'}"
                    aria-pressed={chosen?.studentId === cell.studentId && chosen.slot === slot}
                    title={cell.why}
                    onkeydown={(event) => onkeydown(event, cell, cell.studentId, slot)}
                    onclick={() => onchoose(cell.studentId, slot)}
                    aria-label="Booth {booth.number}, {shortDay(day.day)} {week.periodNames[
                      slot % week.periodNames.length
                    ]}: {name}, {cell.name}, {cell.testId}"
                  >
                    <span class="leading-tight font-semibold">{short(name)}{cell.pinned ? ' ▪' : ''}</span>
                    <span class="what">{brief(cell)}</span>
                  </button>
                {/if}
              </td>
            {/each}
          {/each}
        </tr>
      {/each}
    </tbody>
  </table>
</div>
<p class="mt-1 text-sm text-(--soft) print:hidden">
  <span class="key whole">whole coupon</span> <span class="key beside">with you beside</span>
  <span class="key part">a part of it</span> <span class="key sitting">sitting</span>; ▪ pinned. Drag a cell
  to another period, or Alt with an arrow key.
</p>

<style>
  .board {
    border-collapse: collapse;
    table-layout: auto;
  }
  th {
    padding: 0.1rem 0.35rem;
    font-weight: 600;
  }
  th[scope='row'],
  th[rowspan] {
    position: sticky;
    left: 0;
    z-index: 1;
    background: var(--page);
  }
  td {
    border: 1px solid var(--line);
    padding: 0;
    min-width: 4.2rem;
    height: 1px; /* so that its button fills it */
    background: var(--sheet);
  }
  .day {
    border-left: 3px solid var(--steel-edge);
  }
  .not {
    background: repeating-linear-gradient(135deg, transparent 0 7px, var(--line) 7px 8px);
  }
  .over {
    outline: 3px solid var(--bronze);
    outline-offset: -3px;
  }
  .cell {
    display: flex;
    flex-direction: column;
    justify-content: center;
    width: 100%;
    height: 100%;
    min-height: 48px;
    padding: 0.1rem 0.3rem;
    text-align: left;
    border-left: 6px solid transparent;
  }
  .cell[aria-pressed='true'] {
    outline: 3px solid var(--ink);
    outline-offset: -3px;
  }
  .what {
    font-size: 0.72rem;
    line-height: 1.1;
  }
  .whole {
    border-left-color: var(--blue);
    background: var(--done-ground);
  }
  .beside {
    border-left-color: var(--bronze);
    background: var(--straw-ground);
  }
  .part {
    border-left-color: var(--straw);
  }
  .sitting {
    border-left-color: var(--ink);
    background: var(--ink);
    color: var(--page);
  }
  .key {
    border-left-width: 6px;
    padding: 0 0.4rem;
  }
  @media print {
    .not {
      background: #eee;
    }
  }
</style>
