<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { holdKind } from '$lib/holds/words'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { boardQuery } from '$lib/queries'
  import { session } from '$lib/session.svelte'
  import Fold from '$lib/ui/Fold.svelte'
  import Mark from '$lib/ui/Mark.svelte'
  import { shortDay } from '$lib/weeks'
  import { percent } from '$lib/words'

  const board = boardQuery()
  const figures = createQuery(() => ({
    queryKey: ['figures'],
    queryFn: () => ask(api.GET('/api/certificates/figures')),
  }))
  const columns = $derived(board.data?.columns ?? [])
  let wanted = $state('')
  const rows = $derived(
    (board.data?.rows ?? []).filter((row) => row.name.toLowerCase().includes(wanted.trim().toLowerCase())),
  )
  /** Of each code and process what holds longest. */
  const best = (row: Schema['BoardRow'], column: Schema['BoardColumn']) =>
    row.held.find((one) => one.code === column.code && one.process === column.process)
  const money = (amount: number) =>
    new Intl.NumberFormat('en', {
      style: 'currency',
      currency: session.view?.school?.currency ?? 'USD',
      maximumFractionDigits: 0,
    }).format(amount)
</script>

<svelte:head><title>Who holds what · Gradus</title></svelte:head>

{#if !board.data}
  <Waiting error={board.error} retry={() => board.refetch()} what="The qualifications" />
{:else}
  <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1 pt-3 pb-2">
    <h1 class="text-3xl">Who holds what</h1>
    <p class="text-(--soft)">
      {board.data.records}
      {board.data.records === 1 ? 'record' : 'records'}; each until when it holds, unless the process is used
      again.
    </p>
    <div class="ml-auto flex flex-wrap gap-2 print:hidden">
      <a class="plate" href="/api/certificates/cards.pdf" target="_blank" rel="noopener"
        >Cards, eight to a page</a
      >
      <a class="plate" href="/api/certificates/board.csv" download>Table (CSV)</a>
      <button class="plate" onclick={() => window.print()}>Print</button>
    </div>
  </div>
  {#if board.data.rows.length === 0}
    <p class="sheet p-4">
      Nobody holds a record yet. It is certified on a <a class="bare min-h-0 py-0" href="/sittings">sitting</a
      > that was passed.
    </p>
  {:else}
    {#if board.data.rows.length > 12}
      <label class="mb-2 block print:hidden"
        ><span class="eyebrow">Name</span> <input class="field" type="search" bind:value={wanted} /></label
      >
    {/if}
    <div class="sheet overflow-x-auto">
      <table class="w-full border-collapse">
        <thead>
          <tr class="border-b text-left align-bottom">
            <th class="p-2 font-semibold" scope="col">Welder</th>
            {#each columns as column (`${column.code} ${column.process}`)}
              <th class="p-2 leading-tight font-semibold" scope="col"
                >{column.process}<span class="block text-sm font-normal text-(--soft)">{column.codeName}</span
                ></th
              >
            {/each}
          </tr>
        </thead>
        <tbody>
          {#each rows as row (row.studentId)}
            <tr class="border-t">
              <th class="p-2 text-left leading-tight font-semibold" scope="row"
                ><a class="bare min-h-0 py-0" href="/students/{row.studentId}/holds">{row.name}</a><span
                  class="block text-sm font-normal text-(--soft)">{row.className}</span
                ></th
              >
              {#each columns as column (`${column.code} ${column.process}`)}
                {@const one = best(row, column)}
                <td class="p-2">
                  {#if one}
                    <a class="flex min-h-12 items-center gap-2 leading-tight" href="/certificates/{one.id}"
                      ><Mark
                        of={holdKind(one.keeping.kind).of}
                        label={holdKind(one.keeping.kind).name}
                      /><span
                        ><span class="number text-lg">{one.testId ?? 'outside'}</span>
                        {one.positions.join(', ')}<span
                          class="block text-sm {one.keeping.kind === 'holds'
                            ? 'text-(--soft)'
                            : 'font-semibold'}"
                          >{one.keeping.kind === 'ended' ? 'ended ' : 'to '}{shortDay(one.keeping.endsOn)}
                          {one.keeping.endsOn.slice(0, 4)}</span
                        ></span
                      ></a
                    >
                  {/if}
                </td>
              {/each}
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  {/if}
  <div class="mt-3 border-t print:hidden">
    <Fold name="How certifying goes" value="by class" open>
      {#if figures.data}
        <div class="overflow-x-auto">
          <table class="w-full border-collapse text-left">
            <thead>
              <tr class="border-b align-bottom">
                <th class="p-2" scope="col">Class</th>
                <th class="p-2" scope="col">Records</th>
                <th class="p-2" scope="col">Passed the first time</th>
                <th class="p-2" scope="col">Cost of sittings</th>
                <th class="p-2" scope="col">For each record</th>
              </tr>
            </thead>
            <tbody>
              {#each figures.data as one (one.classId ?? 'school')}
                <tr class="border-t {one.classId ? '' : 'font-semibold'}">
                  <th class="p-2 text-left font-normal" scope="row">{one.name}{one.over ? ' (over)' : ''}</th>
                  <td class="number p-2 text-lg">{one.certificates}</td>
                  <td class="p-2"
                    ><span class="number text-lg">{one.firstPassed} of {one.firstSittings}</span>
                    {#if one.passRate}<span class="text-sm text-(--soft)"
                        >{percent(one.passRate.share)}, between {percent(one.passRate.lower)} and {percent(
                          one.passRate.upper,
                        )}</span
                      >{/if}</td
                  >
                  <td class="number p-2 text-lg">{money(one.cost)}</td>
                  <td class="number p-2 text-lg"
                    >{one.costPerCertificate == null ? '' : money(one.costPerCertificate)}</td
                  >
                </tr>
              {/each}
            </tbody>
          </table>
        </div>
        <p class="text-sm text-(--soft)">
          First sittings alone, each test once; the interval is Wilson's, 95 %. Costs of sittings that were
          booked here.
          <a class="bare min-h-0 py-0" href="/api/certificates/figures.csv" download>Table (CSV)</a>
        </p>
      {:else}
        <Waiting error={figures.error} retry={() => figures.refetch()} what="The figures" />
      {/if}
    </Fold>
  </div>
{/if}
