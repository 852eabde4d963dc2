<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import DueToday from './DueToday.svelte'
  import BoothTile from '$lib/floor/BoothTile.svelte'
  import FormerStudents from '$lib/floor/FormerStudents.svelte'
  import HoldQueue from '$lib/floor/HoldQueue.svelte'
  import NoBooth from '$lib/floor/NoBooth.svelte'
  import StudentTable from '$lib/floor/StudentTable.svelte'
  import AddStudent from '$lib/parts/AddStudent.svelte'
  import StartCoupon from '$lib/parts/StartCoupon.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { floorQuery } from '$lib/queries'
  import Fold from '$lib/ui/Fold.svelte'
  import { longDay } from '$lib/weeks'

  const floor = floorQuery()
  let starting = $state(false)
  let adding = $state(false)
  let startFor = $state<{ studentId?: string; boothId?: string }>({})

  const students = $derived(floor.data?.students ?? [])
  const names = $derived(new Map(students.map((one) => [one.id, one])))
  const absent = $derived(new Set(floor.data?.absent ?? []))
  const inBooth = $derived(
    new Map(students.filter((one) => one.open?.booth != null).map((one) => [one.open!.booth!, one])),
  )
  const holdOf = $derived(new Map((floor.data?.holds ?? []).map((hold) => [hold.couponId, hold])))
  const freeBooths = $derived(
    (floor.data?.booths ?? []).filter((booth) => !booth.closedWhy && !inBooth.has(booth.number)),
  )

  const planned = $derived(floor.data?.planned ?? [])
  const isFree = (one: Schema['FloorPlanned']) =>
    !names.get(one.studentId)?.open && !absent.has(one.studentId)
  const plannedNow = $derived(
    new Map(planned.filter((one) => one.period === floor.data?.period).map((one) => [one.studentId, one])),
  )
  const plannedIn = $derived(
    new Map([...plannedNow.values()].filter((one) => isFree(one)).map((one) => [one.boothId, one])),
  )
  /** By period, who comes later today. */
  const laterToday = $derived(
    (floor.data?.periodNames ?? [])
      .map((name, period) => ({ name, rows: planned.filter((one) => one.period === period) }))
      .filter((one, period) => period > (floor.data?.period ?? 0) && one.rows.length > 0),
  )
  const laterIn = $derived(
    new Map(
      laterToday.flatMap(({ name, rows }) =>
        rows.map((one) => [one.boothId, `${names.get(one.studentId)?.name ?? ''}, ${name.toLowerCase()}`]),
      ),
    ),
  )
  const comesLater = $derived(new Set(laterToday.flatMap(({ rows }) => rows.map((one) => one.studentId))))
  const waiting = $derived(
    students.filter(
      (one) =>
        one.open?.booth == null &&
        (one.open || plannedNow.has(one.id) || (one.expectedToday && !comesLater.has(one.id))),
    ),
  )

  const across = $derived(Math.max(0, ...(floor.data?.booths ?? []).map((booth) => booth.column)) + 1)
  // Booths stand where the school put them, as long as no two stand in one place.
  const laidOut = $derived(
    across <= 8 &&
      new Set(floor.data?.booths.map((booth) => `${booth.column} ${booth.row}`)).size ===
        floor.data?.booths.length,
  )
  const count = (many: number, one: string, more: string) => `${many} ${many === 1 ? one : more}`

  function start(forWhat: typeof startFor) {
    startFor = forWhat
    starting = true
  }
</script>

<svelte:head><title>Floor · Gradus</title></svelte:head>

{#if !floor.data}
  <Waiting error={floor.error} retry={() => floor.refetch()} what="The floor" />
{:else}
  <div class="flex flex-wrap items-baseline gap-x-4 pt-2 pb-1">
    <h1 class="text-3xl">Floor</h1>
    <p class="text-(--soft)">
      {longDay(floor.data.today)}, {(floor.data.periodNames[floor.data.period] ?? '').toLowerCase()}{floor
        .data.classesToday.length
        ? ''
        : '; no class meets today'}.
      {#if floor.data.holds.length}<strong class="text-(--ink)"
          >{count(floor.data.holds.length, 'waits', 'wait')} for you</strong
        >,{/if}
      {count(inBooth.size, 'is in a booth', 'are in booths')}{waiting.length
        ? `, ${count(waiting.length, 'has none', 'have none')}`
        : ''}.
    </p>
    <button class="bare ml-auto" onclick={() => (adding = true)}>Add a student</button>
  </div>

  {#if floor.data.holds.length}<HoldQueue holds={floor.data.holds} />{/if}

  <ol class="booths" class:laid={laidOut} style:--across={across} aria-label="Booths">
    {#each floor.data.booths as booth (booth.id)}
      {@const student = inBooth.get(booth.number)}
      {@const comes = plannedIn.get(booth.id)}
      <BoothTile
        {booth}
        {student}
        hold={student?.open ? holdOf.get(student.open.id) : undefined}
        planned={comes}
        plannedName={comes && names.get(comes.studentId)?.name}
        later={laterIn.get(booth.id)}
        onstart={() => start({ boothId: booth.id })}
      />
    {/each}
  </ol>

  <DueToday />

  {#if students.length === 0}
    <div class="py-8 text-center">
      <p class="text-lg">No students yet.</p>
      <button class="lead mt-3" onclick={() => (adding = true)}>Add the first student</button>
    </div>
  {:else}
    <div class="mt-5 grid gap-x-8 gap-y-4 lg:grid-cols-[2fr_3fr]">
      {#if waiting.length}
        <section aria-labelledby="no-booth">
          <h2 id="no-booth" class="pb-1 text-xl">Here, no booth yet</h2>
          <NoBooth
            floor={floor.data}
            {waiting}
            {plannedNow}
            {freeBooths}
            onstart={(studentId) => start({ studentId })}
          />
        </section>
      {/if}
      {#each laterToday as { name, rows } (name)}
        <section aria-label={name}>
          <h2 class="pb-1 text-xl">
            {name}
            <span class="text-base font-normal text-(--soft)"
              >{count(rows.length, 'student', 'students')}</span
            >
          </h2>
          <ul class="grid grid-cols-1 gap-x-8 sm:grid-cols-2 xl:grid-cols-3">
            {#each rows as one (one.itemId + one.studentId)}
              <li class="min-w-0">
                <a class="flex min-h-12 items-center gap-3 border-t" href="/students/{one.studentId}">
                  <span class="number w-7 shrink-0 text-xl">{one.booth}</span>
                  <span class="min-w-0 grow truncate font-semibold">{names.get(one.studentId)?.name}</span>
                  <span class="truncate text-(--soft)">{one.testId} {one.name.toLowerCase()}</span>
                </a>
              </li>
            {/each}
          </ul>
        </section>
      {/each}
    </div>
    <div class="mt-4 border-t">
      <Fold
        name="Everyone"
        value={count(students.length, 'student', 'students')}
        open={!waiting.length && !laterToday.length}
      >
        <StudentTable {students} onstart={(studentId) => start({ studentId })} />
        <FormerStudents />
      </Fold>
    </div>
  {/if}
  <StartCoupon bind:open={starting} {...startFor} />
  <AddStudent bind:open={adding} />
{/if}

<style>
  .booths {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(195px, 1fr));
    gap: 4px;
    padding: 4px;
    border: 2px solid var(--steel-edge);
    border-top-width: 7px;
    background: var(--steel-edge);
  }
  @media (min-width: 1101px) {
    .laid {
      grid-template-columns: repeat(var(--across), minmax(0, 1fr));
    }
    .laid > :global(.tile) {
      grid-column: var(--column);
      grid-row: var(--row);
    }
  }
  @media (max-width: 460px) {
    .booths {
      grid-template-columns: 1fr;
    }
  }
</style>
