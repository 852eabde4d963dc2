<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import CellPanel from '$lib/plan/CellPanel.svelte'
  import Conflicts from '$lib/plan/Conflicts.svelte'
  import SolveBar from '$lib/plan/SolveBar.svelte'
  import WeekBar from '$lib/plan/WeekBar.svelte'
  import WeekBoard from '$lib/plan/WeekBoard.svelte'
  import { weekQuery } from '$lib/queries'
  import { session } from '$lib/session.svelte'
  import { mondayOf, points, todayIn } from '$lib/weeks'

  const client = useQueryClient()
  let monday = $state(mondayOf(todayIn(session.timeZone)))
  const week = weekQuery(() => monday)
  let by = $state<'student' | 'booth'>('student')
  let chosen = $state<{ studentId: string; slot: number } | null>(null)
  const cells = $derived(week.data?.proposal ?? week.data?.cells ?? [])
  const slots = $derived(week.data ? 7 * week.data.periodNames.length : 0)
  const over = $derived(week.data != null && week.data.firstOpen >= slots)
  const chosenStudent = $derived(week.data?.students.find((one) => one.id === chosen?.studentId))

  async function move(studentId: string, from: number, to: number) {
    const before = cells.find((cell) => cell.studentId === studentId && cell.slot === from)
    if (!before) return
    await notices.attempt(async () => {
      await edit(studentId, from, to)
      notices.add('Moved.', 'done', async () => {
        await edit(studentId, to, from)
      })
    })
  }

  async function edit(studentId: string, from: number, to: number) {
    await ask(
      api.PUT('/api/weeks/{monday}/cells', {
        params: { path: { monday } },
        body: { studentId, slot: to, fromSlot: from, itemId: null, boothId: null, pinned: true },
      }),
    )
    if (chosen?.studentId === studentId) chosen = { studentId, slot: to }
    await client.invalidateQueries({ queryKey: ['week'] })
  }
</script>

<svelte:head><title>Week · Gradus</title></svelte:head>

{#if !week.data}
  <Waiting error={week.error} retry={() => week.refetch()} what="The week" />
{:else}
  <div class="flex flex-wrap items-center gap-x-4 gap-y-2 pt-2 pb-1">
    <WeekBar bind:monday title="Week of" />
    <div class="flex flex-wrap items-center gap-x-4 print:hidden">
      <button class="bare" onclick={() => (by = by === 'student' ? 'booth' : 'student')}
        >{by === 'student' ? 'By booth' : 'By student'}</button
      >
      <a class="bare" href="/plan/print?week={monday}">Print</a>
      <a class="bare" href="/api/weeks/{monday}/calendar.ics" download>Calendar</a>
      <a class="bare" href="/api/weeks/{monday}/plan.csv" download>CSV</a>
    </div>
    <SolveBar week={week.data} {over} />
  </div>
  {#if week.data.job?.conflicts.length}<Conflicts conflicts={week.data.job.conflicts} />{/if}
  {#if week.data.students.length === 0}
    <p class="sheet mt-3 p-6 text-center">No students yet. Add the first one on the floor.</p>
  {:else if week.data.days.length === 0}
    <p class="sheet mt-3 p-6 text-center">
      Nobody comes this week: no class meets, or everyone is put down as absent. Say under School when classes
      come.
    </p>
  {:else}
    <p class="pt-1 pb-2 text-(--soft)">
      {#if week.data.proposal}The proposal is shown; the old plan stands until you accept.
      {:else if week.data.cells.length && over}This week is over: what was planned, and what came of it.
      {:else if week.data.cells.length}What is still ahead adds <span class="number text-lg"
          >{points(week.data.gain)}</span
        >
        % to all students' chances together, for
        <span class="number text-lg">{session.money(week.data.cost)}</span> in material and booth time.
      {:else}Nothing is planned yet for this week.{/if}
    </p>
    <div class="grid items-start gap-3" class:with-panel={chosen}>
      <div class="min-w-0">
        <WeekBoard
          week={week.data}
          {cells}
          {by}
          today={todayIn(session.timeZone)}
          {chosen}
          onchoose={(studentId, slot) => (chosen = { studentId, slot })}
          onmove={move}
        />
      </div>
      {#if chosen && chosenStudent && !week.data.proposal}
        <CellPanel
          week={week.data}
          student={chosenStudent}
          slot={chosen.slot}
          cell={cells.find((cell) => cell.studentId === chosen!.studentId && cell.slot === chosen!.slot)}
          onclose={() => (chosen = null)}
        />
      {/if}
    </div>
  {/if}
{/if}

<style>
  .with-panel {
    grid-template-columns: minmax(0, 1fr) 22rem;
  }
  @media (max-width: 1100px) {
    .with-panel {
      grid-template-columns: 1fr;
    }
  }
</style>
