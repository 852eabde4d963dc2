<script lang="ts">
  import { changed } from '$lib/changed'
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import Len from '$lib/parts/Len.svelte'
  import { inUnits, lengthText } from '$lib/units.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import BarPicture from '$lib/plan/BarPicture.svelte'
  import CsvImport from '$lib/plan/CsvImport.svelte'
  import WeekBar from '$lib/plan/WeekBar.svelte'
  import { cutListQuery, stockQuery } from '$lib/queries'
  import { together } from '$lib/together'
  import { session } from '$lib/session.svelte'
  import { mondayOf, todayIn } from '$lib/weeks'

  const client = useQueryClient()
  let monday = $state(mondayOf(todayIn(session.timeZone)))
  const cut = cutListQuery(() => monday)
  const stock = stockQuery()
  const SHORT_WEEKS = 1.5
  let name = $state('')
  let unit = $state('kg')
  let length = $state<number | null>(6096)
  let amount = $state<number | null>(null)
  let why = $state('Delivered')

  // A name that no item of the library goes by is asked about once: no plan would draw on it.
  let asked = $state('')
  const plain = (text: string) => text.replace(/\s+/g, '').replaceAll('×', 'x').toUpperCase()
  const known = (text: string) => stock.data?.kinds.some((one) => plain(one.stock) === plain(text)) ?? true
  const kind = $derived(stock.data?.kinds.find((one) => one.stock === name))
  const isUnknown = $derived(name.trim() !== '' && !known(name))

  $effect(() => {
    if (kind) unit = kind.unit
  })

  const note = (body: Schema['MoveStock']) =>
    ask(api.PUT('/api/stock/moves/{id}', { params: { path: { id: newId() } }, body }))

  async function move() {
    if (isUnknown && asked !== name) {
      asked = name
      return
    }
    const body = { stock: name, unit, lengthMm: unit === 'mm' ? length : null, amount, why, offCut: false }
    if (await put(body)) amount = null
  }

  /** Notes it, and takes it back when asked to. */
  async function put(body: Schema['MoveStock']): Promise<boolean> {
    const done = await notices.attempt(() => note(body))
    if (!done) return false
    notices.add(`${inUnits(body.stock ?? '')}: noted.`, 'done', async () => {
      await note({ ...body, amount: -(body.amount ?? 0), why: 'Taken back' })
      await changed(client, 'stock')
    })
    await changed(client, 'stock')
    return true
  }

  // What drills of fills and caps are made on: coupons that were rejected or stopped, kept for one more try.
  const BLANK = 'Blank '
  const blanks = $derived(
    (stock.data?.kinds ?? [])
      .filter((one) => one.stock.startsWith(BLANK))
      .map((one) => ({
        stock: one.stock,
        there: stock.data!.levels.find((level) => level.stock === one.stock)?.amount ?? 0,
        wanted: cut.data?.draws.find((draw) => draw.stock === one.stock)?.amount ?? 0,
      }))
      .filter((one) => allBlanks || one.there > 0 || one.wanted > 0),
  )
  let allBlanks = $state(false)

  async function sawn(section: string) {
    await notices.attempt(async () => {
      await ask(
        api.PUT('/api/weeks/{monday}/sawn/{id}', {
          params: { path: { monday, id: newId() }, query: { stock: section } },
        }),
      )
      notices.add(`${section}: bars out, off-cuts in.`, 'done')
      await changed(client, 'stock')
    })
  }

  const round = (value: number) => (value >= 100 ? value.toFixed(0) : value.toFixed(1))

  // All are read before any is asked for: a query tells of its data only once it was read.
  const view = $derived(together({ cut: cut.data, stock: stock.data }))
</script>

<svelte:head><title>Stock and cutting · Gradus</title></svelte:head>

{#if !view}
  <Waiting
    error={cut.error ?? stock.error}
    retry={() => {
      void cut.refetch()
      void stock.refetch()
    }}
    what="The cut list"
  />
{:else}
  <div class="flex flex-wrap items-center gap-3 pt-3 pb-2">
    <WeekBar bind:monday title="To cut for" />
    <p>
      Material of the week: <span class="number text-xl">{session.money(view.cut.cost)}</span>
    </p>
    <div class="ml-auto flex gap-2">
      <a class="plate" href="/plan/print?week={monday}&what=saw">Print</a>
      <a class="plate" href="/api/weeks/{monday}/cutlist.csv" download>Cuts CSV</a>
      <a class="plate" href="/api/weeks/{monday}/draws.csv" download>Draws CSV</a>
    </div>
  </div>
  <div class="grid items-start gap-3 lg:grid-cols-[3fr_2fr]">
    <div class="grid min-w-0 gap-3">
      {#each view.cut.sections as section (section.stock)}
        {@const longest = Math.max(1, ...section.plan.bars.map((bar) => bar.lengthMm))}
        <section class="sheet p-3" aria-label={section.stock}>
          <div class="flex flex-wrap items-center gap-2">
            <h2 class="text-xl">{inUnits(section.stock)}</h2>
            <p class="text-sm text-(--soft)">
              {section.pieces.reduce((sum, piece) => sum + piece.count, 0)} pieces from {section.plan.bars
                .length}
              {section.plan.bars.length === 1 ? 'bar' : 'bars'}; {section.proved
                ? 'no way begins less new stock'
                : `at most ${lengthText(section.plan.boughtMm - section.plan.boundMm)} more than the least`}
            </p>
            <button
              class="plate ml-auto"
              disabled={section.plan.bars.length === 0}
              onclick={() => sawn(section.stock)}>Sawn</button
            >
          </div>
          {#if section.plan.bars.length}
            <div class="mt-2"><BarPicture bars={section.plan.bars} {longest} /></div>
          {/if}
          {#if section.toBuy > 0}
            <p class="mt-1 font-semibold text-(--caution)">
              The rack is short of {section.plan.missing.reduce((sum, piece) => sum + piece.count, 0)} pieces: buy
              {section.toBuy}
              {section.toBuy === 1 ? 'bar' : 'bars'} of <Len mm={section.buyLengthMm} />.
            </p>
          {/if}
          <details class="mt-1">
            <summary class="cursor-pointer py-2">Pieces</summary>
            <table class="ledger text-sm">
              <thead><tr><th>For</th><th>Length</th><th>Count</th></tr></thead>
              <tbody>
                {#each section.pieces as piece, index (index)}
                  <tr
                    ><td>{piece.for}</td><td><Len mm={piece.lengthMm} /></td><td class="number"
                      >{piece.count}</td
                    ></tr
                  >
                {/each}
              </tbody>
            </table>
          </details>
        </section>
      {:else}
        <p class="sheet p-6 text-center">Nothing to cut: no week is planned, or it needs no new steel.</p>
      {/each}
      <p class="text-sm text-(--soft)">
        Kerf <Len mm={view.cut.saw.kerfMm} />, grip <Len mm={view.cut.saw.gripMm} />; off-cuts from <Len
          mm={view.cut.saw.keepMm}
        /> go back on the rack. Guard on, gloves off at the saw; deburr before handling.
      </p>
    </div>
    <div class="grid min-w-0 gap-3">
      <section class="sheet overflow-x-auto p-3" aria-label="What the week takes">
        <h2 class="text-xl">What the week takes</h2>
        <table class="ledger mt-1">
          <thead class="text-sm text-(--soft)"
            ><tr><th>Stock</th><th>Takes</th><th>There</th><th>Lasts</th></tr></thead
          >
          <tbody>
            {#each view.cut.draws as draw (draw.stock + draw.unit)}
              {@const short = draw.weeksLeft != null && draw.weeksLeft < SHORT_WEEKS}
              <tr class="border-t" class:text-(--caution)={short}>
                <td class="py-1 pr-2">{inUnits(draw.stock)}</td>
                <td class="number whitespace-nowrap"
                  >{#if draw.unit === 'mm'}<Len mm={draw.amount} />{:else}{round(draw.amount)}
                    {draw.unit}{/if}</td
                >
                <td class="number whitespace-nowrap"
                  >{#if draw.level == null}not counted{:else if draw.unit === 'mm'}<Len
                      mm={draw.level}
                    />{:else}{round(draw.level)}{/if}</td
                >
                <td class="whitespace-nowrap"
                  >{draw.weeksLeft == null
                    ? ''
                    : draw.weeksLeft < 1
                      ? 'not the week'
                      : `${Math.floor(draw.weeksLeft)} w${short ? ', order' : ''}`}</td
                >
              </tr>
            {:else}
              <tr><td colspan="4" class="py-3 text-(--soft)">Nothing planned.</td></tr>
            {/each}
          </tbody>
        </table>
      </section>
      <section class="sheet p-3" aria-label="In or out">
        <h2 class="text-xl">In or out</h2>
        <form
          class="mt-2 flex flex-wrap items-end gap-2"
          novalidate
          onsubmit={(event) => {
            event.preventDefault()
            void move()
          }}
        >
          <label class="grow"
            ><span class="eyebrow block">Stock</span>
            <input class="field w-full" list="stocks" maxlength="120" bind:value={name} />
            <datalist id="stocks">
              {#each new Set([...view.stock.kinds, ...view.stock.levels].map((one) => one.stock)) as one (one)}<option
                  value={one}
                ></option>{/each}
            </datalist>
          </label>
          <label
            ><span class="eyebrow block">In</span>
            <select class="field" bind:value={unit}>
              <option value="kg">kg</option><option value="L">L</option><option value="each">each</option>
              <option value="mm">bars</option>
            </select></label
          >
          {#if unit === 'mm'}
            <label
              ><span class="eyebrow block">Length, mm</span>
              <input type="number" class="field w-28" bind:value={length} /></label
            >
          {/if}
          <label
            ><span class="eyebrow block">Amount; out is under 0</span>
            <input type="number" step="any" class="field w-32" bind:value={amount} /></label
          >
          <label
            ><span class="eyebrow block">Why</span>
            <input class="field w-36" maxlength="200" bind:value={why} /></label
          >
          <button class="lead">{isUnknown && asked === name ? 'Note it all the same' : 'Note it'}</button>
          {#if isUnknown && asked === name}
            <p role="alert" class="basis-full text-(--caution)">
              Nothing in the library is made of "{name}", so no plan will draw on it. Choose a name from the
              list, or note it all the same.
            </p>
          {/if}
        </form>
      </section>
      <section class="sheet p-3" aria-label="Blanks">
        <h2 class="text-xl">Blanks</h2>
        <p class="text-sm text-(--soft)">
          Rejected or stopped coupons, kept and dressed for one more try of a fill or a cap. Such drills are
          only planned where there is one.
        </p>
        <ul class="mt-1">
          {#each blanks as blank (blank.stock)}
            <li class="flex flex-wrap items-center gap-2 border-t py-1">
              <span class="grow">{blank.stock.replace(BLANK, '')}</span>
              <span class="number text-xl">{blank.there}</span>
              {#if blank.wanted > 0}<span class="text-sm text-(--soft)">{blank.wanted} planned</span>{/if}
              <button
                class="plate"
                aria-label="One {blank.stock} less"
                disabled={blank.there < 1}
                onclick={() =>
                  put({
                    stock: blank.stock,
                    unit: 'each',
                    lengthMm: null,
                    amount: -1,
                    why: 'Used',
                    offCut: false,
                  })}>−</button
              >
              <button
                class="plate"
                aria-label="One {blank.stock} more"
                onclick={() =>
                  put({
                    stock: blank.stock,
                    unit: 'each',
                    lengthMm: null,
                    amount: 1,
                    why: 'Kept',
                    offCut: false,
                  })}>+</button
              >
            </li>
          {/each}
        </ul>
        {#if !allBlanks}<button class="bare" onclick={() => (allBlanks = true)}>Other kinds</button>{/if}
      </section>
      <section class="sheet p-3" aria-label="On the rack and in the store">
        <h2 class="text-xl">On the rack and in the store</h2>
        <ul class="mt-1 columns-1">
          {#each view.stock.levels as level (`${level.stock} ${level.unit} ${level.lengthMm} ${level.offCut}`)}
            <li class="flex gap-2 border-t py-0.5">
              <span class="grow"
                >{inUnits(level.stock)}{#if level.lengthMm != null}, <Len
                    mm={level.lengthMm}
                  />{/if}{level.offCut ? ', off-cut' : ''}</span
              >
              <span class="number"
                >{round(level.amount)}
                {level.unit === 'mm' ? (level.amount === 1 ? 'bar' : 'bars') : level.unit}</span
              >
            </li>
          {:else}
            <li class="text-(--soft)">Nothing counted yet. Until it is, nothing runs out.</li>
          {/each}
        </ul>
      </section>
      <CsvImport
        touches={['stock']}
        path="/api/stock/import"
        title="Stock in from a file"
        columns="stock, unit, lengthMm, amount"
      />
    </div>
  </div>
{/if}
