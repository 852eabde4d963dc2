<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { dayOf } from '$lib/days'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { readyQuery } from '$lib/queries'
  import { session } from '$lib/session.svelte'
  import { adviceName, decisionName, percent, stageName } from '$lib/words'

  const board = readyQuery()
  let shown = $state<'all' | Schema['Advised']>('all')
  const rows = $derived((board.data?.rows ?? []).filter((row) => shown === 'all' || row.advised === shown))
  const counts = $derived(Map.groupBy(board.data?.rows ?? [], (row) => row.advised))
  const SHOWN: { id: 'all' | Schema['Advised']; name: string }[] = [
    { id: 'all', name: 'All' },
    { id: 'testNow', name: 'Test now' },
    { id: 'practise', name: 'Practise' },
    { id: 'hold', name: 'Hold' },
  ]
  const COLOURS = { testNow: 'var(--blue)', practise: 'var(--straw)', hold: 'var(--caution)' }
</script>

<svelte:head><title>Ready · Gradus</title></svelte:head>

<div class="flex flex-wrap items-center gap-3 pt-4 pb-3">
  <h1 class="text-3xl">Who is ready</h1>
  <a class="plate" href="/ready/record">Did it come true?</a>
  <div class="ml-auto flex flex-wrap gap-1.5" role="group" aria-label="Show">
    {#each SHOWN as one (one.id)}
      <button class="plate" aria-pressed={shown === one.id} onclick={() => (shown = one.id)}
        >{one.name}
        <span class="number text-(--soft)" class:text-inherit={shown === one.id}
          >{one.id === 'all' ? (board.data?.rows.length ?? 0) : (counts.get(one.id)?.length ?? 0)}</span
        ></button
      >
    {/each}
  </div>
</div>

{#if !board.data}
  <Waiting error={board.error} retry={() => board.refetch()} what="The board" />
{:else}
  <ul class="grid gap-2">
    {#each rows as row (`${row.studentId} ${row.testId}`)}
      <li
        class="sheet grid gap-x-4 gap-y-1 border-l-8 p-3 md:grid-cols-[15rem_1fr_auto]"
        style:border-left-color={COLOURS[row.advised]}
      >
        <div class="min-w-0">
          <a
            class="text-lg font-semibold break-words underline decoration-(--line) underline-offset-4"
            href="/students/{row.studentId}">{row.studentName}</a
          >
          <p class="text-sm text-(--soft)">
            <span class="number text-base">{row.testId}</span>
            {row.testTitle}{row.isTarget ? '; target' : ''}
          </p>
        </div>
        <div class="min-w-0">
          <p>
            <strong class="text-lg"
              >{row.advised === 'practise' ? `Practise ${row.coupons} more` : adviceName(row.advised)}</strong
            >
            {#if row.fullCoupons > 0}
              <span class="number text-xl">{percent(row.passing.mean)}</span>
              <span class="text-(--soft)"
                >to pass everything, between {percent(row.passing.lower)} and {percent(row.passing.upper)}; {row.fullCoupons}
                full {row.fullCoupons === 1 ? 'coupon' : 'coupons'}</span
              >
            {:else}<span class="text-(--soft)">no full coupon yet</span>{/if}
          </p>
          <p class="text-sm">
            {#if row.unmetGates.length}Not met: {row.unmetGates[0]}{row.unmetGates.length > 1
                ? ` And ${row.unmetGates.length - 1} more.`
                : ''}
            {:else if row.weakest}Weakest: {stageName(row.weakest as Schema['Stage']).toLowerCase()}.{/if}
          </p>
          {#if row.decided}
            <p class="text-sm text-(--soft)">
              Decided: {decisionName(row.decided).toLowerCase()}{row.decidedStale
                ? '; welded since then'
                : ''}.
            </p>
          {/if}
        </div>
        <div class="flex items-center gap-2 justify-self-end">
          {#if row.lastAt}<span class="text-sm text-(--soft)">last {dayOf(row.lastAt, session.timeZone)}</span
            >{/if}
          <a
            class="plate"
            href="/students/{row.studentId}/decide/{row.testId}"
            aria-label="Decide for {row.studentName}, {row.testId}">Decide</a
          >
        </div>
      </li>
    {:else}
      <li class="text-(--soft)">
        {shown === 'all' ? 'No student yet. Add one on the floor.' : 'Nobody at the moment.'}
      </li>
    {/each}
  </ul>
  <p class="mt-3 text-sm text-(--soft)">
    First those who are ready and not decided, then those who welded since their decision. You decide; a
    qualified inspector and the governing edition decide at the sitting.
  </p>
{/if}
