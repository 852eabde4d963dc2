<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { points, shortDay } from '$lib/weeks'
  import { brief, chanceAfter, kindOf, lost, outcome, OUTCOMES, type Choice } from './board'
  import { arrows } from './boardKeys'

  type Props = {
    week: Schema['WeekView']
    cells: Schema['PlannedCell'][]
    students: Schema['PlanStudent'][]
    slots: number[]
    name: string
    today: string
    dayOf: (slot: number) => string
    title: (slot: number) => string
    chosen: Choice | null
    onchoose: (studentId: string, slot: number) => void
    onmove: (studentId: string, from: number, to: number) => void
  }
  let { week, cells, students, slots, name, today, dayOf, title, chosen, onchoose, onmove }: Props = $props()

  const HOLD_MS = 300
  const FAR_PX = 8
  const booths = $derived(new Map(week.booths.map((one) => [one.id, one.number])))
  const own = $derived(new Map(cells.map((cell) => [`${cell.studentId} ${cell.slot}`, cell])))
  const done = $derived(new Map(week.done.map((one) => [`${one.studentId} ${one.slot}`, one])))
  const gone = $derived(new Set(lost(week).map(({ cell }) => `${cell.studentId} ${cell.slot}`)))
  const days = $derived([...Map.groupBy(slots, dayOf)])
  const isFirst = (slot: number) => days.some(([, of]) => of[0] === slot)

  let dragged = $state<Choice | null>(null)
  let over = $state<number | null>(null)
  let moved = false

  /** A mouse drags at once, a finger after a moment: until then it scrolls. */
  function grab(event: PointerEvent, cell: Schema['PlannedCell'] | undefined) {
    if (!cell?.kind || cell.slot < week.firstOpen || event.button !== 0) return
    moved = false
    const from = { x: event.clientX, y: event.clientY }
    const isTouch = event.pointerType === 'touch'
    const stop = new AbortController()
    const { signal } = stop
    const begin = () => (dragged = { studentId: cell.studentId, slot: cell.slot })
    const wait = isTouch ? setTimeout(begin, HOLD_MS) : 0
    const end = () => {
      clearTimeout(wait)
      stop.abort()
      dragged = over = null
    }
    const move = (at: PointerEvent) => {
      const far = Math.hypot(at.clientX - from.x, at.clientY - from.y) > FAR_PX
      if (!dragged && far) {
        if (isTouch) return end()
        begin()
      }
      if (!dragged) return
      moved ||= far
      const under = document.elementFromPoint(at.clientX, at.clientY)?.closest<HTMLElement>('[data-slot]')
      over = under?.dataset.student === cell.studentId ? Number(under.dataset.slot) : null
    }
    const drop = () => {
      const to = over
      const was = dragged
      end()
      if (was && to !== null && to !== was.slot && to >= week.firstOpen) onmove(was.studentId, was.slot, to)
    }
    window.addEventListener('pointermove', move, { signal })
    window.addEventListener('pointerup', drop, { signal })
    window.addEventListener('pointercancel', end, { signal })
    // Once a finger drags, the page must not scroll under it.
    window.addEventListener('touchmove', (touch) => dragged && touch.preventDefault(), {
      signal,
      passive: false,
    })
  }

  function onkeydown(
    event: KeyboardEvent,
    cell: Schema['PlannedCell'] | undefined,
    student: Schema['PlanStudent'],
  ) {
    const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
    if (step && event.altKey && cell?.kind && cell.slot >= week.firstOpen) {
      event.preventDefault()
      const at = slots.indexOf(cell.slot)
      // The nearest period ahead in which the student comes and has nothing yet.
      const that = step > 0 ? slots.slice(at + 1) : slots.slice(0, at).toReversed()
      const to = that.find(
        (one) => one >= week.firstOpen && student.comes.includes(one) && !own.has(`${student.id} ${one}`),
      )
      if (to !== undefined) onmove(student.id, cell.slot, to)
    } else arrows(event)
  }
</script>

<div class="overflow-x-auto">
  <table class="plan-board w-full">
    <colgroup
      ><col class="who-col" />{#each slots as slot (slot)}<col />{/each}</colgroup
    >
    <thead>
      <tr>
        <th class="text-left">{name}</th>
        {#each days as [day, of] (day)}
          <th colspan={of.length} class="day" class:today={day === today}
            >{day === today ? 'Today' : shortDay(day)}</th
          >
        {/each}
      </tr>
      {#if days.some(([, of]) => of.length > 1)}
        <tr>
          <td></td>
          {#each slots as slot (slot)}
            <th
              class="text-left text-sm font-normal text-(--soft)"
              class:day={isFirst(slot)}
              class:today={dayOf(slot) === today}>{week.periodNames[slot % week.periodNames.length]}</th
            >
          {/each}
        </tr>
      {/if}
    </thead>
    <tbody>
      {#each students as student (student.id)}
        {@const after = chanceAfter(
          student,
          cells.filter((cell) => cell.slot >= week.firstOpen),
        )}
        <tr>
          <th scope="row" class="who text-left">
            <a class="name" href="/plan/steps?student={student.id}" title={student.name}>{student.name}</a>
            <span class="block text-sm font-normal text-(--soft)">
              {#if student.testId}{student.testId}{/if}{#if student.chance != null && after != null},
                {points(student.chance)}{#if points(after) !== points(student.chance)}&nbsp;to {points(
                    after,
                  )}{/if} %{/if}
            </span>
          </th>
          {#each slots as slot (slot)}
            {@const cell = own.get(`${student.id} ${slot}`)}
            {@const away = student.away.includes(slot)}
            {@const comes = student.comes.includes(slot)}
            {@const past = slot < week.firstOpen}
            {@const isGone = cell != null && cells === week.cells && gone.has(`${student.id} ${slot}`)}
            {@const made = done.get(`${student.id} ${slot}`)}
            {@const came = past || made ? outcome(cell, made, away) : null}
            <td
              class:day={isFirst(slot)}
              class:today={dayOf(slot) === today}
              class:not={!comes && !away && !cell && !made}
              class:over={over === slot && dragged?.studentId === student.id}
              data-slot={slot}
              data-student={student.id}
            >
              <button
                class="cell {cell ? kindOf(cell) : ''}"
                class:past
                class:gone={isGone}
                class:dragged={dragged?.studentId === student.id && dragged.slot === slot}
                aria-pressed={chosen?.studentId === student.id && chosen.slot === slot}
                title={cell ? `${cell.name}. ${cell.why}` : undefined}
                onpointerdown={(event) => grab(event, cell)}
                onkeydown={(event) => onkeydown(event, cell, student)}
                onclick={() => (moved ? (moved = false) : onchoose(student.id, slot))}
                oncontextmenu={(event) => dragged && event.preventDefault()}
                aria-label="{student.name}, {title(slot)}: {cell
                  ? `${cell.name}, ${cell.testId}, booth ${booths.get(cell.boothId)}${isGone ? ', cannot be kept' : ''}`
                  : away
                    ? 'absent'
                    : comes
                      ? past
                        ? 'nothing planned'
                        : 'free'
                      : 'does not come'}{came ? `, ${OUTCOMES[came]}` : ''}"
              >
                {#if came === 'clean'}<span aria-hidden="true">✓</span>
                {:else if came === 'fault'}<span class="plan-fault" aria-hidden="true"></span>{/if}
                {#if cell && !past}
                  <span class="number text-xl leading-none"
                    >{isGone ? '✕ ' : ''}{booths.get(cell.boothId)}{cell.pinned ? ' ▪' : ''}</span
                  >
                {/if}
                {#if cell}<span class="what"
                    >{isGone ? (away ? 'absent' : 'out') : brief(cell)}{came === 'nothing'
                      ? ': not made'
                      : ''}</span
                  >
                {:else if made}<span class="what"
                    >{came === 'open' ? 'in work' : 'unplanned'}{made.made > 1 ? ` ×${made.made}` : ''}</span
                  >
                {:else if away}<span class="what">absent</span>{/if}
                {#if cell && came === 'absent'}<span class="what">absent</span>{/if}
              </button>
            </td>
          {/each}
        </tr>
        {#if student.without}
          <tr>
            <td></td>
            <td colspan={slots.length} class="without"
              ><span class="text-sm text-(--soft)">{student.without}</span></td
            >
          </tr>
        {/if}
      {/each}
    </tbody>
  </table>
</div>
