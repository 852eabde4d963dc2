<script lang="ts">
  import { changed } from '$lib/changed'
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import { points } from '$lib/weeks'
  import { lost } from './board'

  let { week, over }: { week: Schema['WeekView']; over: boolean } = $props()
  const client = useQueryClient()
  const POLL_MS = 300
  const path = $derived({ path: { monday: week.monday } })
  let job = $state<Schema['JobView'] | null>(null)
  const shown = $derived(job ?? week.job ?? null)
  const running = $derived(shown?.state === 'running')
  const gap = $derived(shown?.bound ? Math.max(0, (shown.bound - shown.best) / shown.bound) : null)

  const gone = $derived(lost(week))
  const whys = $derived([...new Set(gone.map((one) => one.why))])

  const again = () => client.invalidateQueries({ queryKey: ['week'] })

  async function solve(fewestMoves: boolean) {
    await notices.attempt(async () => {
      job = await ask(
        api.POST('/api/weeks/{monday}/solve', { params: path, body: { seconds: 10, fewestMoves } }),
      )
      while (job.state === 'running') {
        await new Promise((done) => setTimeout(done, POLL_MS))
        job = await ask(api.GET('/api/weeks/{monday}/job', { params: path }))
      }
      await again()
    })
    job = null
  }

  const stop = () => notices.attempt(() => ask(api.DELETE('/api/weeks/{monday}/job', { params: path })))

  async function accept() {
    await notices.attempt(async () => {
      await ask(api.POST('/api/weeks/{monday}/accept', { params: path }))
      notices.add('The week is the plan now.', 'done')
      await changed(client, 'plan')
    })
  }

  async function discard() {
    await notices.attempt(async () => {
      await ask(api.DELETE('/api/weeks/{monday}/proposal', { params: path }))
      await again()
    })
  }
</script>

<div class="ml-auto flex flex-wrap items-center justify-end gap-3 print:hidden">
  {#if running && shown}
    <p role="status" class="min-w-64">
      Planning: <span class="number text-lg">{points(shown.best)}</span> % on all chances together so far{#if gap !== null},
        at most
        <span class="number text-lg">{points(shown.bound!)}</span>{/if},
      <span class="number text-lg">{shown.seconds.toFixed(1)}</span> s
      <progress class="block w-full" max={shown.secondsLimit} value={shown.seconds} aria-label="Time used"
      ></progress>
    </p>
    <button class="plate" onclick={stop}>Stop here</button>
  {:else if week.proposal && shown}
    <p role="status">
      <strong>Proposed:</strong>
      <span class="number text-lg">{points(shown.best)}</span> % on all chances together{shown.status ===
      'optimal'
        ? ', the best there is'
        : gap !== null
          ? `, within ${(100 * gap).toFixed(1)} % of the best`
          : ''}, in {shown.seconds.toFixed(1)} s{shown.moves != null
        ? `; ${shown.moves} of the old cells change`
        : ''}.
    </p>
    <button class="lead" onclick={accept}>Accept</button>
    <button class="plate" onclick={discard}>Leave the old plan</button>
  {:else if over}
    <!-- What is over is only read. -->
  {:else if gone.length}
    <p role="status" class="max-w-md text-right text-sm">
      <strong>✕ {whys.slice(0, 2).join('. ').replace(/\.$/, '')}.</strong><br />
      {gone.length === 1 ? 'One place is' : `${gone.length} places are`} lost{whys.length > 2
        ? `, ${whys.length} reasons`
        : ''}.
    </p>
    <button class="bare" onclick={() => solve(false)}>Plan all anew</button>
    <button class="lead" onclick={() => solve(true)}>Plan again, fewest moves</button>
  {:else}
    {#if week.cells.length}
      <button class="bare" onclick={() => solve(true)}>Fewest moves</button>
    {/if}
    <button class="lead" onclick={() => solve(false)}>Plan the week</button>
  {/if}
</div>
