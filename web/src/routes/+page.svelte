<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import type { Schema } from '$lib/api/client'
  import { ago } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import AddStudent from '$lib/parts/AddStudent.svelte'
  import ChanceBand from '$lib/parts/ChanceBand.svelte'
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

  <ol class="row" aria-label="Booths">
    {#each floor.data.booths as booth (booth.id)}
      {@const student = inBooth.get(booth.number)}
      <li class="stall {student ? '' : 'idle'}">
        <span class="number stall-number" aria-label="Booth {booth.number}">{booth.number}</span>
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
            <th class="w-[34%] px-2 font-semibold">Chance</th>
            <th class="px-2 font-semibold">Last coupon</th>
            <th class="px-2 font-semibold">Decided</th>
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
            <tr><td colspan="6" class="p-6 text-center text-(--soft)">Nobody is expected today.</td></tr>
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
    min-height: 6rem;
    background: repeating-linear-gradient(135deg, transparent 0 9px, var(--page) 9px 18px);
  }
  .stall-number {
    position: absolute;
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
