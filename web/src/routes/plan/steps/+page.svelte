<script lang="ts">
  import LeadsOwn from '$lib/parts/LeadsOwn.svelte'
  import { changed } from '$lib/changed'
  import { useQueryClient } from '@tanstack/svelte-query'
  import { goto } from '$app/navigation'
  import { page } from '$app/state'
  import { api, ask, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import { together } from '$lib/together'
  import Waiting from '$lib/parts/Waiting.svelte'
  import StepEditor from '$lib/plan/StepEditor.svelte'
  import StepMap from '$lib/plan/StepMap.svelte'
  import WayPanel from '$lib/plan/WayPanel.svelte'
  import { floorQuery, stepsQuery, testsQuery, wayQuery } from '$lib/queries'

  const client = useQueryClient()
  const steps = stepsQuery()
  const floor = floorQuery()
  const tests = testsQuery()
  const students = $derived(floor.data?.students ?? [])
  const studentId = $derived(page.url.searchParams.get('student') ?? students[0]?.id ?? '')
  const way = wayQuery(() => studentId)
  let chosen = $state<string | null>(null)
  const step = $derived(steps.data?.steps.find((one) => one.test === chosen))
  const without = $derived(
    (tests.data ?? []).filter((test) => !steps.data?.steps.some((one) => one.test === test.id)),
  )

  async function save(steps: Schema['SaveStep'][]) {
    const done = await notices.attempt(() => ask(api.PUT('/api/steps', { body: { steps } })))
    if (done) {
      notices.add('The steps are saved.', 'done')
      await changed(client, 'plan')
    }
  }

  // All are read before any is asked for: a query tells of its data only once it was read.
  const view = $derived(together({ steps: steps.data, floor: floor.data }))
</script>

<svelte:head><title>Steps · Gradus</title></svelte:head>

{#if !view}
  <Waiting
    error={steps.error ?? floor.error}
    retry={() => {
      void steps.refetch()
      void floor.refetch()
    }}
    what="The steps"
  />
{:else}
  <div class="flex flex-wrap items-center gap-3 pt-3 pb-2">
    <h1 class="text-2xl">Steps</h1>
    <label class="flex items-center gap-2">
      <span class="eyebrow">of</span>
      <select
        class="field"
        value={studentId}
        onchange={(event) =>
          goto(`?student=${event.currentTarget.value}`, { replaceState: true, keepFocus: true })}
      >
        {#each students as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
      </select>
    </label>
    <p class="text-sm text-(--soft)">
      Blue behind, straw now, pale ahead. A solid line must be behind first; a dashed one usually is. Tap a
      step to change what it comes after.
    </p>
  </div>
  <StepMap
    steps={view.steps.steps}
    way={way.data?.way ?? []}
    {chosen}
    onchoose={(test) => (chosen = chosen === test ? null : test)}
  />
  {#if step}
    {#key step}
      <LeadsOwn><StepEditor {step} steps={view.steps.steps} {without} onsave={save} /></LeadsOwn>
    {/key}
  {/if}
  <div class="mt-3">
    {#if students.length === 0}
      <p class="sheet p-6 text-center">No students yet. Add the first one on the floor.</p>
    {:else if !way.data}
      <Waiting error={way.error} retry={() => way.refetch()} what="The way" />
    {:else}
      {#key way.data.studentId}<WayPanel way={way.data} tests={view.steps.steps} />{/key}
    {/if}
  </div>
{/if}
