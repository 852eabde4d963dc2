<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { dayAfter, shortDay } from '$lib/weeks'
  import './board.css'
  import { blocks, tables, type Choice } from './board'
  import BoothRows from './BoothRows.svelte'
  import StudentRows from './StudentRows.svelte'

  type Props = {
    week: Schema['WeekView']
    cells: Schema['PlannedCell'][]
    by: 'student' | 'booth'
    today: string
    chosen: Choice | null
    onchoose: (studentId: string, slot: number) => void
    onmove: (studentId: string, from: number, to: number) => void
  }
  let { week, cells, by, today, chosen, onchoose, onmove }: Props = $props()
  // What a name and a cell need to be read.
  const NAME_PX = 184
  const CELL_PX = 104
  const WIDE_PX = 1150
  let width = $state(WIDE_PX)
  const wide = $derived(width >= WIDE_PX)
  const most = $derived(Math.max(2, Math.floor((width - NAME_PX) / CELL_PX)))
  const all = $derived(blocks(week, cells, wide))
  const perDay = $derived(week.periodNames.length)
  const dayOf = (slot: number) => dayAfter(week.monday, Math.floor(slot / perDay))
  const title = (slot: number) => `${shortDay(dayOf(slot))} ${week.periodNames[slot % perDay]}`
</script>

<div data-board bind:clientWidth={width}>
  {#if by === 'student'}
    {#each all as block (block.name)}
      <div class="blocks" class:two={block.rows.length > 1}>
        {#each block.rows as students, index (index)}
          {#each tables(block.slots, perDay, most) as slots, part (part)}
            <StudentRows
              {week}
              {cells}
              {students}
              {slots}
              name={index === 0 ? block.name : ''}
              {today}
              {dayOf}
              {title}
              {chosen}
              {onchoose}
              {onmove}
            />
          {/each}
        {/each}
      </div>
    {/each}
  {:else}
    {#each tables( week.days.flatMap((day) => day.slots), perDay, most ) as slots, part (part)}
      <BoothRows {slots} {week} {cells} {dayOf} {title} {today} {chosen} {onchoose} />
    {/each}
  {/if}
</div>
<p class="mt-2 flex flex-wrap gap-x-4 gap-y-1 text-sm text-(--soft) print:hidden">
  <span class="plan-kind whole">whole, as test</span>
  <span class="plan-kind beside">whole, with you beside</span>
  <span class="plan-kind part">a part, so many times</span>
  <span class="plan-kind sitting">sitting</span>
  <span><span aria-hidden="true">✓</span> came out clean</span>
  <span><span class="plan-fault" aria-hidden="true"></span> had a fault</span>
  <span>▪ pinned</span>
  {#if by === 'student'}<span
      >Number: the booth. Row: chance now, and after what is planned. Drag a cell, by touch after a moment, or
      Alt with an arrow key.</span
    >{/if}
</p>

<style>
  .blocks {
    display: grid;
    gap: 0.5rem 2rem;
    margin-bottom: 0.5rem;
  }
  @media (min-width: 1200px) {
    .two {
      grid-template-columns: 1fr 1fr;
    }
  }
</style>
