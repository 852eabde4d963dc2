<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import BoothStall from '$lib/floor/BoothStall.svelte'
  import FormerStudents from '$lib/floor/FormerStudents.svelte'
  import HoldQueue from '$lib/floor/HoldQueue.svelte'
  import StudentTable from '$lib/floor/StudentTable.svelte'
  import AddStudent from '$lib/parts/AddStudent.svelte'
  import StartCoupon from '$lib/parts/StartCoupon.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { floorQuery } from '$lib/queries'
  import { longDay } from '$lib/weeks'

  const floor = floorQuery()
  let starting = $state(false)
  let adding = $state(false)
  let startFor = $state<{ studentId?: string; boothId?: string }>({})
  let everyone = $state(false)

  const inBooth = $derived(
    new Map(
      (floor.data?.students ?? [])
        .filter((one) => one.open?.booth != null)
        .map((one) => [one.open!.booth!, one]),
    ),
  )
  const shown = $derived(
    (floor.data?.students ?? []).filter(
      (one) => everyone || one.expectedToday || floor.data?.classesToday.length === 0,
    ),
  )

  const plannedNow = $derived(
    new Map(
      (floor.data?.planned ?? [])
        .filter((one) => one.period === floor.data?.period)
        .map((one) => [one.studentId, one]),
    ),
  )
  const plannedIn = $derived(
    new Map([...plannedNow.values()].filter((one) => isFree(one)).map((one) => [one.boothId, one])),
  )
  const names = $derived(new Map((floor.data?.students ?? []).map((one) => [one.id, one])))
  const absent = $derived(new Set(floor.data?.absent ?? []))
  const freeBooths = $derived(
    (floor.data?.booths ?? []).filter((booth) => !booth.closedWhy && !inBooth.has(booth.number)),
  )
  const across = $derived(Math.max(0, ...(floor.data?.booths ?? []).map((booth) => booth.column)) + 1)
  // Booths stand where the school put them, as long as no two stand in one place.
  const laidOut = $derived(
    across <= 8 &&
      new Set(floor.data?.booths.map((booth) => `${booth.column} ${booth.row}`)).size ===
        floor.data?.booths.length,
  )

  const isFree = (one: Schema['FloorPlanned']) =>
    !names.get(one.studentId)?.open && !absent.has(one.studentId)

  function start(forWhat: typeof startFor) {
    startFor = forWhat
    starting = true
  }
</script>

<svelte:head><title>Floor · Gradus</title></svelte:head>

{#if !floor.data}
  <Waiting error={floor.error} retry={() => floor.refetch()} what="The floor" />
{:else}
  <div class="flex flex-wrap items-baseline gap-x-4 pt-3 pb-2">
    <h1 class="text-2xl">Floor</h1>
    <p class="text-(--soft)">
      {longDay(floor.data.today)};
      {floor.data.classesToday.length
        ? floor.data.classesToday.join(' and ').toLowerCase()
        : 'no class meets today'}
    </p>
    <button class="tap ml-auto" onclick={() => (adding = true)}>Add a student</button>
  </div>

  <HoldQueue holds={floor.data.holds} />

  <ol class="row" class:laid={laidOut} style:--across={across} aria-label="Booths">
    {#each floor.data.booths as booth (booth.id)}
      {@const student = inBooth.get(booth.number)}
      {@const planned = plannedIn.get(booth.id)}
      <BoothStall
        {booth}
        {student}
        {planned}
        plannedName={planned && names.get(planned.studentId)?.name}
        onstart={() => start({ boothId: booth.id })}
      />
    {/each}
  </ol>

  <div class="mt-4 flex items-center gap-3">
    <h2 class="text-xl">{everyone || !floor.data.classesToday.length ? 'Everyone' : 'Here today'}</h2>
    {#if floor.data.classesToday.length}
      <button class="tap" aria-pressed={everyone} onclick={() => (everyone = !everyone)}>Show everyone</button
      >
    {/if}
    <p class="ml-auto text-sm text-(--soft)">
      Chance: a full coupon of the target test made now comes out clean, by eye.
    </p>
  </div>
  {#if floor.data.students.length === 0}
    <div class="sheet mt-3 p-8 text-center">
      <p class="text-lg">No students yet.</p>
      <button class="tap tap-main mt-3 px-6" onclick={() => (adding = true)}>Add the first student</button>
    </div>
  {:else}
    <StudentTable
      floor={floor.data}
      {shown}
      {plannedNow}
      {freeBooths}
      taken={new Set(inBooth.keys())}
      onstart={(studentId) => start({ studentId })}
    />
  {/if}
  {#if everyone || !floor.data.classesToday.length}<FormerStudents />{/if}
  <StartCoupon bind:open={starting} {...startFor} />
  <AddStudent bind:open={adding} />
{/if}

<style>
  .row {
    display: grid;
    grid-template-columns: repeat(6, minmax(0, 1fr));
    border-top: 6px solid var(--steel-edge);
    border-right: 4px solid var(--steel-edge);
    background: var(--sheet);
  }
  @media (min-width: 1001px) {
    .laid {
      grid-template-columns: repeat(var(--across), minmax(0, 1fr));
    }
    .laid > :global(.stall) {
      grid-column: var(--column);
      grid-row: var(--row);
    }
  }
  @media (max-width: 1000px) {
    .row {
      grid-template-columns: repeat(4, minmax(0, 1fr));
    }
  }
  @media (max-width: 640px) {
    .row {
      grid-template-columns: repeat(2, minmax(0, 1fr));
    }
  }
</style>
