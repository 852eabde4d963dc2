<script lang="ts">
  import { page } from '$app/state'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { readyQuery } from '$lib/queries'
  import ReadyList from '$lib/ready/ReadyList.svelte'
  import { shortDay } from '$lib/weeks'
  import { percent } from '$lib/words'

  const all = $derived(page.url.searchParams.has('all'))
  const board = readyQuery(() => all)
  const rows = $derived(board.data?.rows ?? [])
  const first = $derived(rows.find((row) => row.group === 'decide'))
  const bars = $derived([...new Set(rows.map((row) => row.bar))].toSorted((a, b) => a - b))
  const asks = $derived(
    bars.length === 1
      ? `The school asks ${percent(bars[0]!)}.`
      : `The school asks ${percent(bars[0]!)} to ${percent(bars.at(-1)!)}, by the test.`,
  )
  const students = $derived(new Set(rows.map((row) => row.studentId)).size)
</script>

<svelte:head><title>Ready · Gradus</title></svelte:head>

<div class="flex flex-wrap items-center gap-x-5 gap-y-1 pt-3 pb-2">
  <h1 class="text-3xl">Ready</h1>
  {#if rows.length}
    <p class="text-(--soft)">
      {students}
      {students === 1 ? 'student' : 'students'}
      {all ? 'on every test they practise' : students === 1 ? 'on the target test' : 'on their target test'}. {asks}
    </p>
  {/if}
  <div class="ml-auto flex min-w-0 flex-wrap items-center gap-x-5">
    {#if all}
      <a class="bare" href="/ready">Target tests only</a>
    {:else if board.data?.others}
      <a class="bare" href="/ready?all">Every test they practise</a>
    {/if}
    {#if first}
      <a
        class="lead max-w-full [overflow-wrap:anywhere]"
        href="/students/{first.studentId}/decide/{first.testId}">Decide on {first.studentName}</a
      >
    {/if}
  </div>
</div>

{#if board.data?.areOld}
  <p class="bg-(--straw-ground) px-3 py-1.5 font-semibold" role="status">
    {board.data.of ? `Numbers of ${shortDay(board.data.of)}.` : 'Numbers from before.'} Today's are being worked
    out and come by themselves.
  </p>
{/if}

{#if !board.data}
  <Waiting error={board.error} retry={() => board.refetch()} what="The board" room="40rem" />
{:else if rows.length === 0}
  <p class="py-10 text-lg">No student yet. <a class="bare" href="/">Add one on the floor</a></p>
{:else}
  <ReadyList {rows} />
  <p class="mt-2 flex flex-wrap items-center gap-x-6 text-sm text-(--soft)">
    You decide; local codes, the governing edition and a qualified inspector decide at the sitting.
    <a class="bare ml-auto" href="/ready/record">What was said, and what came</a>
  </p>
{/if}
