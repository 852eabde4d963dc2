<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { ago } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import AddStudent from '$lib/parts/AddStudent.svelte'
  import ChanceBand from '$lib/parts/ChanceBand.svelte'
  import PlannedStart from '$lib/parts/PlannedStart.svelte'
  import StartCoupon from '$lib/parts/StartCoupon.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { outbox } from '$lib/outbox.svelte'
  import { floorQuery } from '$lib/queries'
  import { logPass, recordEvent, takeBackEvent, takeBackPass } from '$lib/recording'
  import TimerChip from '$lib/bench/TimerChip.svelte'
  import { clockText, ticking } from '$lib/ticking.svelte'
  import { beadName, decisionName, stageName } from '$lib/words'

  const client = useQueryClient()
  const floor = floorQuery()
  let starting = $state(false)
  let adding = $state(false)
  let startFor = $state<{ studentId?: string; boothId?: string }>({})
  let everyone = $state(false)
  let busy = $state<string | null>(null)

  const inBooth = $derived(
    new Map(
      (floor.data?.students ?? [])
        .filter((one) => one.open?.booth != null)
        .map((one) => [one.open!.booth!, one]),
    ),
  )
  const shown = $derived(
    (floor.data?.students ?? []).filter(
      (one) => everyone || one.expectedToday || floor.data?.classesToday.length === 0,
    ),
  )

  const plannedNow = $derived(
    new Map(
      (floor.data?.planned ?? [])
        .filter((one) => one.period === floor.data?.period)
        .map((one) => [one.studentId, one]),
    ),
  )
  const plannedIn = $derived(
    new Map([...plannedNow.values()].filter((one) => isFree(one)).map((one) => [one.boothId, one])),
  )
  const names = $derived(new Map((floor.data?.students ?? []).map((one) => [one.id, one])))
  const absent = $derived(new Set(floor.data?.absent ?? []))
  const freeBooths = $derived(
    (floor.data?.booths ?? []).filter((booth) => !booth.closedWhy && !inBooth.has(booth.number)),
  )
  const across = $derived(Math.max(0, ...(floor.data?.booths ?? []).map((booth) => booth.column)) + 1)
  // Booths stand where the school put them, as long as no two stand in one place.
  const laidOut = $derived(
    across <= 8 &&
      new Set(floor.data?.booths.map((booth) => `${booth.column} ${booth.row}`)).size ===
        floor.data?.booths.length,
  )
  let elsewhere = $state<string | null>(null)
  let menu = $state<string | null>(null)

  const isFree = (one: Schema['FloorPlanned']) =>
    !names.get(one.studentId)?.open && !absent.has(one.studentId)

  async function setAbsent(student: Schema['FloorStudent'], value: boolean) {
    await notices.attempt(async () => {
      const day = floor.data!.today
      if (value)
        await ask(
          api.PUT('/api/absences/{id}', {
            params: { path: { id: newId() } },
            body: { studentId: student.id, day, period: null },
          }),
        )
      else
        await ask(
          api.DELETE('/api/absences/{studentId}/{day}', { params: { path: { studentId: student.id, day } } }),
        )
      await client.invalidateQueries()
      if (value) notices.add(`${student.name} is absent today.`, 'done', () => setAbsent(student, false))
    })
  }

  async function setClosed(booth: Schema['BoothView'], why: string | null) {
    menu = null
    await notices.attempt(async () => {
      await ask(api.PUT('/api/booths/{id}/closed', { params: { path: { id: booth.id } }, body: { why } }))
      await client.invalidateQueries()
      if (why)
        notices.add(`Booth ${booth.number} is closed: ${why.toLowerCase()}.`, 'done', () =>
          setClosed(booth, null),
        )
    })
  }

  function start(forWhat: typeof startFor) {
    startFor = forWhat
    starting = true
  }

  async function logNext(student: Schema['FloorStudent']) {
    const coupon = student.open
    if (!coupon?.nextCard || !coupon.next.beadKey) return
    busy = coupon.id
    await notices.attempt(async () => {
      const id = await logPass(coupon.id, coupon.next.beadKey!, coupon.nextCard!)
      notices.add(
        `${student.name}: ${nextBead(coupon)} logged clean, ${coupon.nextCard!.amps} A.`,
        'done',
        async () => {
          await takeBackPass(coupon.id, id)
          await client.invalidateQueries()
        },
      )
      await client.invalidateQueries()
    })
    busy = null
  }

  async function answer(hold: Schema['FloorHold'], go: boolean) {
    await notices.attempt(async () => {
      const id = await recordEvent(hold.couponId, 'holdAnswered', { point: hold.point, go })
      notices.add(`${hold.studentName}, ${hold.point}: ${go ? 'go on' : 'mend first'}.`, 'done', async () => {
        await takeBackEvent(hold.couponId, id)
        await client.invalidateQueries()
      })
      await client.invalidateQueries()
    })
  }

  const nextBead = (coupon: Schema['FloorCoupon']) =>
    beadName({ stage: coupon.next.stage!, layer: coupon.next.layer!, beadInLayer: coupon.next.beadInLayer! })
</script>

<svelte:head><title>Floor · Gradus</title></svelte:head>

{#if !floor.data}
  <Waiting error={floor.error} retry={() => floor.refetch()} what="The floor" />
{:else}
  <div class="flex flex-wrap items-baseline gap-x-4 pt-3 pb-2">
    <h1 class="text-2xl">Floor</h1>
    <p class="text-(--soft)">
      {new Intl.DateTimeFormat('en-GB', { weekday: 'long', day: 'numeric', month: 'long' }).format(
        new Date(floor.data.today),
      )};
      {floor.data.classesToday.length
        ? floor.data.classesToday.join(' and ').toLowerCase()
        : 'no class meets today'}
    </p>
    <button class="tap ml-auto" onclick={() => (adding = true)}>Add a student</button>
  </div>

  {#if floor.data.holds.length}
    <section class="mb-2 border-2 border-(--bronze) bg-(--sheet) p-2" aria-label="Waiting for you">
      <ul class="flex flex-wrap gap-2">
        {#each floor.data.holds as hold (hold.couponId + hold.point)}
          <li class="flex flex-wrap items-center gap-1.5">
            <a class="tap px-2" href="/coupons/{hold.couponId}"
              >{#if hold.booth}<span class="number text-2xl">{hold.booth}</span>{/if}
              {hold.studentName}: {hold.point}
              <span class="number text-(--soft)"
                >{clockText(ticking.now - new Date(hold.calledAt).getTime())}</span
              ></a
            >
            <button
              class="tap tap-main"
              aria-label="{hold.studentName}, {hold.point}: go on"
              onclick={() => answer(hold, true)}>Go</button
            >
            <button
              class="tap"
              aria-label="{hold.studentName}, {hold.point}: mend first"
              onclick={() => answer(hold, false)}>Mend</button
            >
          </li>
        {/each}
      </ul>
    </section>
  {/if}

  <ol class="row" class:laid={laidOut} style:--across={across} aria-label="Booths">
    {#each floor.data.booths as booth (booth.id)}
      {@const student = inBooth.get(booth.number)}
      {@const planned = plannedIn.get(booth.id)}
      <li class="stall {student ? '' : 'idle'}" style:--column={booth.column + 1} style:--row={booth.row + 1}>
        <button
          class="number stall-number"
          aria-expanded={menu === booth.id}
          aria-label="Booth {booth.number}: more"
          onclick={() => (menu = menu === booth.id ? null : booth.id)}>{booth.number}</button
        >
        {#if menu === booth.id}
          <div class="mt-1 mr-10 grid gap-1">
            {#if booth.closedWhy}
              <button class="tap" onclick={() => setClosed(booth, null)}>Open it again</button>
            {:else}
              <button class="tap" onclick={() => setClosed(booth, 'Broken down')}>Broken down</button>
            {/if}
          </div>
        {/if}
        {#if student?.open}
          {@const coupon = student.open}
          <a class="block pr-9 leading-tight font-bold" href="/coupons/{coupon.id}">{student.name}</a>
          <p class="text-sm text-(--soft)">
            <span class="number text-base">{coupon.testId}</span>
            <span class="stamp mx-1 text-base" title="Stamp on the steel">{coupon.stamp}</span>
            {coupon.asTest ? 'as test' : 'coached'}
          </p>
          <div
            class="mt-1 flex gap-0.5"
            role="img"
            aria-label="{coupon.beadsLaid} of {coupon.beadsPlanned} beads laid"
          >
            {#each { length: coupon.beadsPlanned }, index (index)}
              <span
                class="h-2.5 grow border"
                style:background={index < coupon.beadsLaid ? 'var(--bronze)' : 'transparent'}
                style:border-color="var(--steel-edge)"
              ></span>
            {/each}
          </div>
          {#if coupon.timers.length}
            <p class="mt-1 flex flex-wrap gap-1">
              {#each coupon.timers as timer (timer.eventId)}<TimerChip {timer} small />{/each}
            </p>
          {/if}
          {#if coupon.next.kind === 'pass'}
            <button
              class="tap mt-2 w-full flex-col gap-0"
              disabled={busy === coupon.id || outbox.passesOf(coupon.id).length > 0}
              onclick={() => logNext(student)}
            >
              <span>{stageName(coupon.next.stage!)} clean</span>
              <span class="text-sm font-normal text-(--soft)"
                >{coupon.next.stage === 'root'
                  ? ''
                  : `layer ${coupon.next.layer}, bead ${coupon.next.beadInLayer}, `}<span class="number"
                  >{coupon.nextCard?.amps} A</span
                ></span
              >
            </button>
          {:else if coupon.next.kind === 'fitUp'}
            <a class="tap mt-2 w-full bg-(--straw-ground)" href="/coupons/{coupon.id}">Check the fit-up</a>
          {:else}
            <a class="tap tap-main mt-2 w-full" href="/coupons/{coupon.id}">Look and close</a>
          {/if}
        {:else if booth.closedWhy}
          <p class="mt-auto pr-9 font-semibold text-(--caution)">{booth.closedWhy}</p>
        {:else if planned}
          <p class="min-h-11 pr-10 leading-tight font-bold">{names.get(planned.studentId)?.name}</p>
          <div class="mt-auto"><PlannedStart {planned} {booth} wide /></div>
        {:else}
          <button
            class="tap mt-auto w-full border-dashed bg-transparent text-(--soft)"
            onclick={() => start({ boothId: booth.id })}>Free: start here</button
          >
        {/if}
      </li>
    {/each}
  </ol>

  <div class="mt-4 flex items-center gap-3">
    <h2 class="text-xl">{everyone || !floor.data.classesToday.length ? 'Everyone' : 'Here today'}</h2>
    {#if floor.data.classesToday.length}
      <button class="tap" aria-pressed={everyone} onclick={() => (everyone = !everyone)}>Show everyone</button
      >
    {/if}
    <p class="ml-auto text-sm text-(--soft)">
      Chance: a full coupon of the target test made now comes out clean, by eye.
    </p>
  </div>
  {#if floor.data.students.length === 0}
    <div class="sheet mt-3 p-8 text-center">
      <p class="text-lg">No students yet.</p>
      <button class="tap tap-main mt-3 px-6" onclick={() => (adding = true)}>Add the first student</button>
    </div>
  {:else}
    <div class="sheet mt-2 overflow-x-auto">
      <table class="w-full text-left">
        <thead class="text-sm text-(--soft)">
          <tr>
            <th class="px-3 py-1.5 font-semibold">Student</th>
            <th class="px-2 font-semibold">Target</th>
            <th class="w-[22%] px-2 font-semibold">Chance</th>
            <th class="px-2 font-semibold">Last coupon</th>
            <th class="px-2 font-semibold">Decided</th>
            <th class="px-2 font-semibold">{floor.data.periodNames[floor.data.period]}</th>
            <th class="px-2"><span class="sr-only">Next</span></th>
          </tr>
        </thead>
        <tbody>
          {#each shown as student (student.id)}
            <tr class="border-t">
              <td class="px-3"
                ><a
                  class="block py-2.5 font-semibold underline decoration-(--line) underline-offset-4"
                  href="/students/{student.id}">{student.name}</a
                ></td
              >
              <td class="number px-2 text-lg" title={student.targetTitle}>{student.targetTestId}</td>
              <td class="px-2"><ChanceBand chance={student.chance} slim /></td>
              <td class="px-2 whitespace-nowrap"
                >{student.lastClosedAt ? ago(student.lastClosedAt) : 'none yet'}</td
              >
              <td class="px-2 whitespace-nowrap"
                >{student.lastDecision ? decisionName(student.lastDecision) : ''}</td
              >
              <td class="px-2 py-1">
                {#if absent.has(student.id)}
                  <button
                    class="tap"
                    aria-pressed="true"
                    aria-label="{student.name} is absent; comes after all"
                    onclick={() => setAbsent(student, false)}>Absent</button
                  >
                {:else if plannedNow.get(student.id) && !student.open}
                  {@const planned = plannedNow.get(student.id)!}
                  {@const booth = floor.data.booths.find((one) => one.id === planned.boothId)!}
                  <div class="flex flex-wrap gap-1">
                    {#if elsewhere === student.id || inBooth.has(booth.number) || booth.closedWhy}
                      {#each freeBooths.slice(0, 4) as other (other.id)}<PlannedStart
                          {planned}
                          booth={other}
                        />{/each}
                    {:else}
                      <PlannedStart {planned} {booth} />
                      <button
                        class="tap"
                        aria-label="{student.name}: in another booth"
                        onclick={() => (elsewhere = student.id)}>Swap</button
                      >
                    {/if}
                    <button
                      class="tap"
                      aria-label="{student.name} is absent"
                      onclick={() => setAbsent(student, true)}>Absent</button
                    >
                  </div>
                {:else if student.expectedToday && !student.open}
                  <button
                    class="tap"
                    aria-label="{student.name} is absent"
                    onclick={() => setAbsent(student, true)}>Absent</button
                  >
                {/if}
              </td>
              <td class="px-2 py-1 text-right">
                {#if student.open}
                  <a class="tap" href="/coupons/{student.open.id}">Bench</a>
                {:else}
                  <button
                    class="tap whitespace-nowrap"
                    aria-label="Start a coupon for {student.name}"
                    onclick={() => start({ studentId: student.id })}>Start</button
                  >
                {/if}
              </td>
            </tr>
          {:else}
            <tr><td colspan="7" class="p-6 text-center text-(--soft)">Nobody is expected today.</td></tr>
          {/each}
        </tbody>
      </table>
    </div>
  {/if}
  <StartCoupon bind:open={starting} {...startFor} />
  <AddStudent bind:open={adding} />
{/if}

<style>
  .row {
    display: grid;
    grid-template-columns: repeat(6, minmax(0, 1fr));
    border-top: 6px solid var(--steel-edge);
    border-right: 4px solid var(--steel-edge);
    background: var(--sheet);
  }
  .stall {
    position: relative;
    display: flex;
    flex-direction: column;
    min-height: 9.2rem;
    padding: 0.5rem 0.6rem 0.6rem;
    border-left: 4px solid var(--steel-edge);
    border-bottom: 1px solid var(--line);
  }
  .idle {
    min-height: 6.6rem;
    background: repeating-linear-gradient(135deg, transparent 0 9px, var(--page) 9px 18px);
  }
  @media (min-width: 1001px) {
    .laid {
      grid-template-columns: repeat(var(--across), minmax(0, 1fr));
    }
    .laid > .stall {
      grid-column: var(--column);
      grid-row: var(--row);
    }
  }
  .stall-number {
    position: absolute;
    min-width: 48px;
    min-height: 48px;
    text-align: right;
    top: 0;
    right: 0.5rem;
    font-size: 1.9rem;
    line-height: 1.15;
    color: var(--soft);
  }
  @media (max-width: 1000px) {
    .row {
      grid-template-columns: repeat(4, minmax(0, 1fr));
    }
  }
  @media (max-width: 640px) {
    .row {
      grid-template-columns: repeat(2, minmax(0, 1fr));
    }
  }
</style>
