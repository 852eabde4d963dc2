<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import TimerChip from '$lib/bench/TimerChip.svelte'
  import { notices } from '$lib/notices.svelte'
  import { outbox } from '$lib/outbox.svelte'
  import PlannedStart from '$lib/parts/PlannedStart.svelte'
  import { DEAD_MS, logPass, takeBackPass } from '$lib/recording'
  import { beadName, stageName } from '$lib/words'

  let {
    booth,
    student,
    planned,
    plannedName,
    onstart,
  }: {
    booth: Schema['BoothView']
    /** Who is in it. */
    student?: Schema['FloorStudent']
    /** Who comes into it in this period. */
    planned?: Schema['FloorPlanned']
    plannedName?: string
    onstart: () => void
  } = $props()
  const client = useQueryClient()
  let menu = $state(false)
  let busy = $state(false)

  async function setClosed(why: string | null) {
    menu = false
    await notices.attempt(async () => {
      await ask(api.PUT('/api/booths/{id}/closed', { params: { path: { id: booth.id } }, body: { why } }))
      await client.invalidateQueries()
      if (why)
        notices.add(`Booth ${booth.number} is closed: ${why.toLowerCase()}.`, 'done', () => setClosed(null))
    })
  }

  async function logNext(student: Schema['FloorStudent']) {
    const coupon = student.open
    if (!coupon?.nextCard || !coupon.next.beadKey || busy) return
    busy = true
    const free = new Promise((done) => setTimeout(done, DEAD_MS))
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
    await free
    busy = false
  }

  const nextBead = (coupon: Schema['FloorCoupon']) =>
    beadName({ stage: coupon.next.stage!, layer: coupon.next.layer!, beadInLayer: coupon.next.beadInLayer! })
</script>

<li class="stall {student ? '' : 'idle'}" style:--column={booth.column + 1} style:--row={booth.row + 1}>
  <button
    class="number stall-number"
    aria-expanded={menu}
    aria-label="Booth {booth.number}: more"
    onclick={() => (menu = !menu)}>{booth.number}</button
  >
  {#if menu}
    <div class="mt-1 mr-10 grid gap-1">
      {#if booth.closedWhy}
        <button class="tap" onclick={() => setClosed(null)}>Open it again</button>
      {:else}
        <button class="tap" onclick={() => setClosed('Broken down')}>Broken down</button>
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
    {#if coupon.next.kind === 'pass' && coupon.concerns.length}
      <a class="tap mt-2 w-full flex-col gap-0 bg-(--straw-ground)" href="/coupons/{coupon.id}"
        ><span>Before the {stageName(coupon.next.stage!).toLowerCase()}</span>
        <span class="text-sm font-normal">{coupon.concerns[0]}</span></a
      >
    {:else if coupon.next.kind === 'pass'}
      <button
        class="tap mt-2 w-full flex-col gap-0"
        disabled={busy || outbox.passesOf(coupon.id).length > 0}
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
    <p class="min-h-11 pr-10 leading-tight font-bold">{plannedName}</p>
    <div class="mt-auto"><PlannedStart {planned} {booth} wide /></div>
  {:else}
    <button class="tap mt-auto w-full border-dashed bg-transparent text-(--soft)" onclick={() => onstart()}
      >Free: start here</button
    >
  {/if}
</li>

<style>
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
</style>
