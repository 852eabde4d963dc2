<script lang="ts">
  import { changed } from '$lib/changed'
  import { useQueryClient } from '@tanstack/svelte-query'
  import { goto } from '$app/navigation'
  import { page } from '$app/state'
  import { api, ask } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import { floorQuery } from '$lib/queries'

  let { tests, says, student = '' }: { tests: string[]; says: string; student?: string } = $props()
  const client = useQueryClient()
  const floor = floorQuery()
  const students = $derived(floor.data?.students ?? [])
  let said = $state<string | null>(null)
  // Whoever it was asked for stands there first.
  const chosen = $derived(said ?? (student || (page.url.searchParams.get('student') ?? '')))
  let job = $state('')
  let by = $state('')

  async function save() {
    const studentId = chosen
    const done = await notices.attempt(() =>
      ask(
        api.PUT('/api/students/{studentId}/goal', {
          params: { path: { studentId } },
          body: { tests, job: job.trim() || says, by: by || null },
        }),
      ),
    )
    if (!done) return
    notices.add(`${tests.join(', ')}: the goal is set.`, 'done')
    await changed(client, 'goal')
    await goto(`/plan/steps?student=${studentId}`)
  }
</script>

<section class="mt-4 border-t pt-3" aria-labelledby="goal">
  <h2 id="goal" class="text-lg">Make it a student's goal</h2>
  <div class="mt-1 grid gap-2 sm:grid-cols-2 lg:grid-cols-1">
    <label
      ><span class="eyebrow block">Student</span>
      <select class="field w-full" bind:value={() => chosen, (id) => (said = id)}>
        <option value="">Choose</option>
        {#each students as student (student.id)}<option value={student.id}>{student.name}</option>{/each}
      </select></label
    >
    <label
      ><span class="eyebrow block">Needed by</span>
      <input type="date" class="field w-full" bind:value={by} /></label
    >
    <label class="sm:col-span-2 lg:col-span-1"
      ><span class="eyebrow block">The job</span>
      <input maxlength="200" placeholder={says} class="field w-full" bind:value={job} /></label
    >
  </div>
  <button class="plate mt-2 px-5" disabled={chosen === ''} onclick={save}>Set as the goal</button>
</section>
