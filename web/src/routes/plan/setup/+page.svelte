<script lang="ts">
  import { goto } from '$app/navigation'
  import LeadsOwn from '$lib/parts/LeadsOwn.svelte'
  import { changed } from '$lib/changed'
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import BoothForm from '$lib/plan/BoothForm.svelte'
  import CsvImport from '$lib/plan/CsvImport.svelte'
  import SetupForm from '$lib/plan/SetupForm.svelte'
  import { floorQuery, setupQuery, stepsQuery, weekQuery } from '$lib/queries'
  import { together } from '$lib/together'
  import { session } from '$lib/session.svelte'
  import { mondayOf, todayIn } from '$lib/weeks'

  const client = useQueryClient()
  const setup = setupQuery()
  const floor = floorQuery()
  const steps = stepsQuery()
  const monday = mondayOf(todayIn(session.timeZone))
  const week = weekQuery(() => monday)
  let chosen = $state<string | null>(null)
  let sitting = $state({ studentId: '', testId: '' })
  const booth = $derived(week.data?.booths.find((one) => one.id === chosen))

  async function save(setup: Schema['SaveSetup']) {
    const done = await notices.attempt(() => ask(api.PUT('/api/plan/setup', { body: setup })))
    if (!done) return
    notices.add('Saved.', 'done')
    await changed(client, 'school')
  }

  /** Whoever had the calendar's address has it no more. */
  async function renewFeed() {
    const done = await notices.attempt(() => ask(api.POST('/api/plan/calendar-key')))
    if (!done) return
    notices.add('The calendar has a new address.', 'done')
    await changed(client, 'school')
  }

  /** A booth more, behind the last one; what it runs is said right after. */
  async function addBooth() {
    const id = newId()
    const last = week.data?.booths.at(-1)
    const body = {
      processes: last?.processes ?? ['SMAW'],
      pipe: last?.has.includes('pipe') ?? true,
      purge: false,
      extraction: last?.has.includes('extraction') ?? false,
      positioner: false,
      column: 0,
      row: Math.min(39, Math.max(-1, ...(floor.data?.booths ?? []).map((one) => one.row)) + 1),
    }
    const done = await notices.attempt(() =>
      ask(api.PUT('/api/booths/{id}', { params: { path: { id } }, body })),
    )
    if (!done) return
    await changed(client, 'booths')
    chosen = id
  }

  // All are read before any is asked for: a query tells of its data only once it was read.
  const view = $derived(together({ setup: setup.data, week: week.data, floor: floor.data }))
</script>

<svelte:head><title>School · Gradus</title></svelte:head>

{#if !view}
  <Waiting
    error={setup.error ?? week.error ?? floor.error}
    retry={() => {
      void setup.refetch()
      void week.refetch()
      void floor.refetch()
    }}
    what="The school"
  />
{:else}
  <h1 class="pt-3 pb-2 text-2xl">What the plan goes by</h1>
  <div class="grid items-start gap-3 lg:grid-cols-2">
    <section class="sheet p-3" aria-label="Booths">
      <h2 class="text-xl">Booths, as they stand in the shop</h2>
      <div class="mt-2 flex flex-wrap gap-1">
        {#each view.week.booths as one (one.id)}
          <button
            class="plate px-2"
            aria-pressed={chosen === one.id}
            onclick={() => (chosen = chosen === one.id ? null : one.id)}
            ><span class="number text-lg">{one.number}</span>{one.closedWhy ? ' closed' : ''}</button
          >
        {/each}
      </div>
      {#if session.isLead}
        <button class="plate mt-2" onclick={addBooth}>Add a booth</button>
      {/if}
      {#if booth}{#key booth}<BoothForm {booth} />{/key}{/if}
    </section>
    <section class="sheet p-3" aria-label="Book a sitting">
      <h2 class="text-xl">Book a sitting</h2>
      <form
        class="mt-2 flex flex-wrap items-end gap-2"
        novalidate
        onsubmit={(event) => {
          event.preventDefault()
          if (sitting.studentId && sitting.testId)
            void goto(`/students/${sitting.studentId}/book/${sitting.testId}`)
        }}
      >
        <label
          ><span class="eyebrow block">Student</span>
          <select class="field" bind:value={sitting.studentId}>
            <option value="">choose</option>
            {#each view.floor.students as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
          </select></label
        >
        <label
          ><span class="eyebrow block">Test</span>
          <select class="field" bind:value={sitting.testId}>
            <option value="">choose</option>
            {#each steps.data?.steps ?? [] as one (one.test)}<option value={one.test}>{one.test}</option
              >{/each}
          </select></label
        >
        <button class="lead" disabled={!sitting.studentId || !sitting.testId}>Go on</button>
      </form>
      {#if view.setup.feedPath}
        <p class="mt-3 text-sm">
          Calendar feed for a phone or a desk calendar; whoever has the address can read it:
          <a class="break-all underline" href={view.setup.feedPath}>{location.origin}{view.setup.feedPath}</a>
        </p>
      {/if}
      {#if session.isLead}
        <button class="bare" onclick={renewFeed}
          >{view.setup.feedPath ? 'Give it a new address' : 'Make a calendar feed'}</button
        >
        {#if view.setup.feedPath}<p class="text-sm text-(--soft)">Then the old address shows nothing.</p>{/if}
      {/if}
    </section>
    <LeadsOwn
      >{#key view.setup}<SetupForm setup={view.setup} onsave={save} />{/key}</LeadsOwn
    >
    <CsvImport
      path="/api/attendance/import"
      touches={['absence']}
      title="Absences from a file"
      columns="student, day, period (empty for the whole day)"
    />
  </div>
{/if}
