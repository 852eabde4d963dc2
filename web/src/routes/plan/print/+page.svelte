<script lang="ts">
  import { page } from '$app/state'
  import type { Schema } from '$lib/api/client'
  import Len from '$lib/parts/Len.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import BarPicture from '$lib/plan/BarPicture.svelte'
  import BoothCards from '$lib/plan/BoothCards.svelte'
  import { boothCardsQuery, cutListQuery, weekQuery } from '$lib/queries'
  import { together } from '$lib/together'
  import { session } from '$lib/session.svelte'
  import { aboutText, GAS_VOLUME, inUnits, lengthText, MASS } from '$lib/units.svelte'
  import { processName } from '$lib/words'
  import { dayAfter, mondayOf, shortDay, todayIn } from '$lib/weeks'

  const monday = $derived(page.url.searchParams.get('week') ?? mondayOf(todayIn(session.timeZone)))
  const SHEETS = [
    { id: 'cards', name: 'Booth cards' },
    { id: 'student', name: 'Each student' },
    { id: 'booth', name: 'Each booth' },
    { id: 'saw', name: 'Each saw' },
  ] as const
  const asked = page.url.searchParams.get('what')
  let what = $state<(typeof SHEETS)[number]['id']>(SHEETS.find((one) => one.id === asked)?.id ?? 'cards')
  const week = weekQuery(() => monday)
  const cut = cutListQuery(() => monday)
  const cards = boothCardsQuery(() => monday)
  const booths = $derived(new Map((week.data?.booths ?? []).map((one) => [one.id, one.number])))
  const students = $derived(new Map((week.data?.students ?? []).map((one) => [one.id, one.name])))
  const groups = $derived.by(() => {
    const cells = week.data?.cells ?? []
    const by = Map.groupBy(cells, (cell) => (what === 'booth' ? cell.boothId : cell.studentId))
    return [...by.entries()]
      .map(([id, own]) => ({
        id,
        title: what === 'booth' ? `Booth ${booths.get(id)}` : (students.get(id) ?? ''),
        cells: own.toSorted((a, b) => a.slot - b.slot),
      }))
      .toSorted((a, b) => a.title.localeCompare(b.title, 'en', { numeric: true }))
  })
  const whenIs = (slot: number) => {
    const names = week.data!.periodNames
    return `${shortDay(dayAfter(monday, Math.floor(slot / names.length)))} ${names[slot % names.length]?.toLowerCase()}`
  }

  /** What has to lie in the booth, by student and item: said with the first cell of it. */
  const needs = $derived(
    new Map((cut.data?.needs ?? []).map((one) => [`${one.studentId} ${one.itemId}`, one])),
  )
  function needsText(need: Schema['ItemNeeds']): string {
    const steel = need.steel.map(
      (one) => `${one.count} × ${lengthText(one.lengthMm)} of ${inUnits(one.stock)}`,
    )
    const rest = need.draws.map((one) =>
      one.unit === 'each'
        ? `${one.stock.toLowerCase()} ${Math.ceil(one.amount)}`
        : `${inUnits(one.stock)}, ${aboutText(one.amount, one.unit === 'kg' ? MASS : GAS_VOLUME)}`,
    )
    return `${[...steel, ...rest].join('; ')}.`
  }

  // All are read before any is asked for: a query tells of its data only once it was read.
  const view = $derived(together({ week: week.data, cut: cut.data, cards: cards.data }))
</script>

<svelte:head><title>Print · Gradus</title></svelte:head>

<div class="flex flex-wrap items-center gap-2 pt-3 pb-2 print:hidden">
  <h1 class="text-2xl">Sheets for {shortDay(monday)}</h1>
  {#each SHEETS as one (one.id)}
    <button class="plate" aria-pressed={what === one.id} onclick={() => (what = one.id)}>{one.name}</button>
  {/each}
  <button class="lead ml-auto" onclick={() => print()}>Print</button>
</div>
{#if !view}
  <Waiting
    error={week.error ?? cut.error ?? cards.error}
    retry={() => {
      void week.refetch()
      void cut.refetch()
      void cards.refetch()
    }}
    what="The sheets"
  />
{:else if what === 'cards'}
  <BoothCards cards={view.cards.cards} codes={view.cards.codes} when={whenIs} />
{:else if what === 'saw'}
  {#each view.cut.sections as section (section.stock)}
    <section class="card sheet mb-3 p-3">
      <h2 class="text-xl">{inUnits(section.stock)}: {section.plan.bars.length} bars</h2>
      <p class="text-sm">
        Kerf <Len mm={view.cut.saw.kerfMm} />, grip <Len mm={view.cut.saw.gripMm} />. Guard on; deburr before
        handling.
      </p>
      <BarPicture
        bars={section.plan.bars}
        longest={Math.max(1, ...section.plan.bars.map((bar) => bar.lengthMm))}
      />
      <ol class="list-decimal pl-6">
        {#each section.plan.bars as bar, index (index)}
          <li>
            <Len mm={bar.lengthMm} />{bar.offCut ? ' (off-cut)' : ''}: {#each [...Map.groupBy(bar.cuts, (cut) => cut)] as [length, same] (length)}{same.length}
              × <Len mm={length} />;
            {/each} left <Len mm={bar.leftMm} />{bar.kept ? ', keep' : ''}
          </li>
        {/each}
      </ol>
    </section>
  {:else}
    <p class="sheet p-6 text-center">Nothing to cut in this week.</p>
  {/each}
{:else}
  {#each groups as group (group.id)}
    <section class="card sheet mb-3 p-3">
      <h2 class="text-xl">{group.title}, week of {shortDay(monday)}</h2>
      <table class="ledger">
        <tbody>
          {#each group.cells as cell (`${cell.studentId} ${cell.slot}`)}
            {@const need = needs.get(`${cell.studentId} ${cell.itemId}`)}
            {@const first =
              group.cells.find((one) => one.studentId === cell.studentId && one.itemId === cell.itemId) ===
              cell}
            <tr>
              <td class="w-44 py-1 align-top whitespace-nowrap">{whenIs(cell.slot)}</td>
              <td class="w-36 align-top [overflow-wrap:anywhere]"
                >{#if what === 'booth'}{students.get(cell.studentId)}{:else}booth <span class="number text-lg"
                    >{booths.get(cell.boothId)}</span
                  >{/if}</td
              >
              <td
                ><strong>{cell.name}</strong> <span class="number">{cell.testId}</span>{#if need}, {need.position},
                  {need.processes.map(processName).join(' and ')}{/if}<br /><span class="text-sm"
                  >{cell.why}</span
                >
                {#if need && first}
                  <p class="text-sm">
                    <strong>Lay out:</strong>
                    {needsText(need)}
                  </p>
                {/if}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    </section>
  {:else}
    <p class="sheet p-6 text-center">Nothing is planned for this week.</p>
  {/each}
{/if}

<style>
  .card {
    break-inside: avoid;
  }
</style>
