<script lang="ts">
  import { changed } from '$lib/changed'
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import { session } from '$lib/session.svelte'
  import { shortDay, todayIn } from '$lib/weeks'
  import { percent } from '$lib/words'

  let { grounds }: { grounds: Schema['Grounds'] } = $props()
  const client = useQueryClient()
  const today = todayIn(session.timeZone)
  let day = $state(today)
  let note = $state('')
  let id = newId()

  async function record(passed: boolean) {
    const body = { studentId: grounds.studentId, testId: grounds.test.id, day, passed, note }
    await notices.attempt(async () => {
      const path = { id }
      await ask(api.PUT('/api/results/{id}', { params: { path }, body }))
      notices.add(passed ? 'Passed: entered.' : 'Not passed: entered.', 'done', async () => {
        await notices.attempt(() => ask(api.DELETE('/api/results/{id}', { params: { path } })))
        await changed(client, 'sitting')
      })
      id = newId()
      note = ''
      await changed(client, 'sitting')
    })
  }
</script>

<section class="sheet mt-4 p-4" aria-labelledby="came">
  <h2 id="came" class="text-xl">How the sitting came out</h2>
  <div class="mt-2 flex flex-wrap items-end gap-2">
    <label
      ><span class="eyebrow block">Day</span>
      <input type="date" max={today} class="field" bind:value={day} /></label
    >
    <label class="min-w-40 flex-1"
      ><span class="eyebrow block">Note, if any</span>
      <input maxlength="500" class="field w-full" bind:value={note} /></label
    >
  </div>
  <div class="mt-2 flex gap-2">
    <button class="plate flex-1" onclick={() => record(true)}>Passed</button>
    <button class="plate flex-1" onclick={() => record(false)}>Not passed</button>
  </div>
  {#if grounds.results.length}
    <ul class="mt-3">
      {#each grounds.results as result (result.id)}
        <li class="border-t py-1">
          {shortDay(result.day)}: <strong>{result.passed ? 'passed' : 'not passed'}</strong>; {result.coupons ===
          0
            ? 'no coupon before'
            : `said before: ${percent(result.said.mean)}`}{result.note ? `. ${result.note}` : ''}
        </li>
      {/each}
    </ul>
  {/if}
</section>
