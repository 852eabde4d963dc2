<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { shortDay } from '$lib/weeks'
  import { brief, kindOf, type Choice } from './board'
  import { arrows } from './boardKeys'

  type Props = {
    week: Schema['WeekView']
    cells: Schema['PlannedCell'][]
    today: string
    dayOf: (slot: number) => string
    title: (slot: number) => string
    chosen: Choice | null
    onchoose: (studentId: string, slot: number) => void
    slots: number[]
  }
  let { slots, week, cells, today, dayOf, title, chosen, onchoose }: Props = $props()
  const days = $derived([...Map.groupBy(slots, dayOf)])
  const names = $derived(new Map(week.students.map((one) => [one.id, one.name])))
  const own = $derived(new Map(cells.map((cell) => [`${cell.boothId} ${cell.slot}`, cell])))
  const isFirst = (slot: number) => days.some(([, of]) => of[0] === slot)
  const isAsked = $derived(new Set(cells.map((cell) => cell.boothId)))

  // "Dev Pillai" and "Dev Moe" never share a short form: the first letter of the last name goes along.
  const short = (name: string) => {
    const [first = '', ...rest] = name.split(' ')
    return rest.length ? `${first} ${rest.at(-1)![0]}.` : first
  }
</script>

<div class="overflow-x-auto">
  <table class="plan-board w-full">
    <colgroup
      ><col class="who-col" />{#each slots as slot (slot)}<col />{/each}</colgroup
    >
    <thead>
      <tr>
        <th class="text-left">Booth</th>
        {#each days as [day, of] (day)}<th colspan={of.length} class="day" class:today={day === today}
            >{shortDay(day)}</th
          >{/each}
      </tr>
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
    </thead>
    <tbody>
      {#each week.booths as booth (booth.id)}
        <tr>
          <th scope="row" class="who text-left"
            ><span class="number text-xl">{booth.number}</span>
            <span class="block text-sm font-normal text-(--soft)"
              >{booth.closedWhy ? `✕ ${booth.closedWhy}` : booth.processes.join(', ')}{isAsked.has(
                booth.id,
              ) || booth.closedWhy
                ? ''
                : ', not used'}</span
            ></th
          >
          {#each slots as slot (slot)}
            {@const cell = own.get(`${booth.id} ${slot}`)}
            <td
              class:day={isFirst(slot)}
              class:today={dayOf(slot) === today}
              class:not={booth.closedWhy != null}
            >
              {#if cell}
                {@const name = names.get(cell.studentId) ?? ''}
                <button
                  class="cell booth {kindOf(cell)}"
                  class:past={slot < week.firstOpen}
                  class:out={booth.closedWhy != null && slot >= week.firstOpen}
                  aria-pressed={chosen?.studentId === cell.studentId && chosen.slot === slot}
                  title={cell.why}
                  onkeydown={arrows}
                  onclick={() => onchoose(cell.studentId, slot)}
                  aria-label="Booth {booth.number}, {title(slot)}: {name}, {cell.name}, {cell.testId}"
                >
                  <span class="leading-tight font-semibold">{short(name)}{cell.pinned ? ' ▪' : ''}</span>
                  <span class="what">{brief(cell)}</span>
                </button>
              {/if}
            </td>
          {/each}
        </tr>
      {/each}
    </tbody>
  </table>
</div>
