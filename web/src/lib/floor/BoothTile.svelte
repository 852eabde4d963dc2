<script lang="ts">
  import { changed } from '$lib/changed'
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import TimerChip from '$lib/bench/TimerChip.svelte'
  import SectionSketch from '$lib/drawings/SectionSketch.svelte'
  import { ago } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import { outbox } from '$lib/outbox.svelte'
  import PlannedStart from '$lib/parts/PlannedStart.svelte'
  import { DEAD_MS, logPass, takeBackPass } from '$lib/recording'
  import { session } from '$lib/session.svelte'
  import WaitClock from '$lib/ui/WaitClock.svelte'
  import { beadCode, stageName } from '$lib/words'

  let {
    booth,
    student,
    hold,
    planned,
    plannedName,
    later,
    onstart,
  }: {
    booth: Schema['BoothView']
    /** Who is in it. */
    student?: Schema['FloorStudent']
    /** What its coupon waits for. */
    hold?: Schema['FloorHold']
    /** Who comes into it in this period. */
    planned?: Schema['FloorPlanned']
    plannedName?: string
    /** Who comes into it later today. */
    later?: string
    onstart: () => void
  } = $props()
  const client = useQueryClient()
  const UNDO_MS = 8000
  let menu = $state(false)
  let busy = $state(false)
  let done = $state<{ id: string; couponId: string; says: string } | null>(null)

  const coupon = $derived(student?.open)
  const begun = $derived(coupon ? ago(coupon.startedAt, session.timeZone) : 'today')

  async function setClosed(why: string | null) {
    menu = false
    await notices.attempt(async () => {
      await ask(api.PUT('/api/booths/{id}/closed', { params: { path: { id: booth.id } }, body: { why } }))
      await changed(client, 'booths')
      if (why)
        notices.add(`Booth ${booth.number} is closed: ${why.toLowerCase()}.`, 'done', () => setClosed(null))
    })
  }

  const codeOfNext = (coupon: Schema['FloorCoupon']) =>
    beadCode(
      {
        ...coupon.next,
        stage: coupon.next.stage!,
        layer: coupon.next.layer!,
        beadInLayer: coupon.next.beadInLayer!,
      },
      coupon.section.beads.filter((bead) => bead.layer === coupon.next.layer).length > 1,
    )

  async function logNext(coupon: Schema['FloorCoupon']) {
    if (!coupon.nextCard || !coupon.next.beadKey || busy) return
    busy = true
    const free = new Promise((ready) => setTimeout(ready, DEAD_MS))
    const says = `${codeOfNext(coupon)} logged clean`
    await notices.attempt(async () => {
      const id = await logPass(coupon.id, coupon.next.beadKey!, coupon.nextCard!)
      const told = { id, couponId: coupon.id, says }
      done = told
      setTimeout(() => done === told && (done = null), UNDO_MS)
      await changed(client, 'coupon')
    })
    await free
    busy = false
  }

  async function takeBack() {
    const told = done!
    done = null
    await notices.attempt(async () => {
      await takeBackPass(told.couponId, told.id)
      await changed(client, 'coupon')
    })
  }
</script>

<li
  class="tile"
  class:slim={!coupon}
  class:closed={!coupon && booth.closedWhy}
  class:planned
  style:--column={booth.column + 1}
  style:--row={booth.row + 1}
>
  <button
    class="number corner"
    class:quiet={!hold}
    aria-expanded={menu}
    aria-label="Booth {booth.number}: more"
    onclick={() => (menu = !menu)}>{booth.number}</button
  >
  {#if menu}
    <div class="sheet absolute top-12 right-1 z-20 grid gap-1 p-2 shadow-lg">
      {#if booth.closedWhy}
        <button class="plate" onclick={() => setClosed(null)}>Open it again</button>
      {:else}
        <button class="plate" onclick={() => setClosed('Broken down')}>Broken down</button>
      {/if}
      <button class="bare justify-center" onclick={() => (menu = false)}>Leave it</button>
    </div>
  {/if}
  {#if student && coupon}
    <a class="grow p-2.5 pb-1.5" href="/coupons/{coupon.id}">
      <span class="block truncate pr-9 text-lg leading-tight font-bold" title={student.name}
        >{student.name}</span
      >
      <span class="flex flex-wrap items-baseline gap-x-2 text-(--soft)">
        <span class="number text-(--ink)">{coupon.testId}</span>
        <span class="stamp">{coupon.stamp}</span>
        {#if coupon.asTest}<span class="as-test">test</span>{/if}
        {#if begun !== 'today'}<span class="text-sm font-semibold text-(--straw-ink)">begun {begun}</span
          >{/if}
      </span>
      <span class="my-1.5 block h-24"
        ><SectionSketch
          sketch={coupon.section}
          next={coupon.next.beadKey}
          label="{coupon.beadsLaid} of {coupon.beadsPlanned} beads laid"
        /></span
      >
      <span class="flex items-center gap-2 font-semibold">
        <span class="min-w-0 grow truncate">
          {#if coupon.next.kind === 'pass'}{codeOfNext(coupon)} next<span class="number"
              >, {coupon.nextCard?.amps} A</span
            >
          {:else if coupon.next.kind === 'fitUp'}Fitted, not checked
          {:else}All beads laid{/if}
        </span>
        {#each coupon.timers as timer (timer.eventId)}<TimerChip {timer} small />{/each}
        <svg viewBox="0 0 8 12" class="w-2 shrink-0 text-(--soft)" aria-hidden="true"
          ><path d="M1.5 1L6.5 6L1.5 11" fill="none" stroke="currentColor" stroke-width="2" /></svg
        >
      </span>
    </a>
    {#if done}
      <p class="strip bg-(--done-ground)" role="status">
        <svg viewBox="0 0 16 16" class="w-4 shrink-0" aria-hidden="true"
          ><path d="M2 9L6.5 13L14 3" fill="none" stroke="var(--blue)" stroke-width="2.6" /></svg
        >
        <span class="min-w-0 grow truncate">{done.says}</span>
        <button class="bare" onclick={takeBack}>Undo</button>
      </p>
    {:else if hold}
      <a class="strip waits" href="/coupons/{coupon.id}">
        <span class="min-w-0 grow truncate">{hold.point}</span><WaitClock since={hold.calledAt} small />
      </a>
    {:else if coupon.next.kind === 'pass' && coupon.concerns.length}
      <a class="strip waits flex-col !items-start !gap-0 leading-tight" href="/coupons/{coupon.id}">
        <span>Before the {stageName(coupon.next.stage!).toLowerCase()}</span>
        <span class="w-full truncate text-sm font-normal">{coupon.concerns[0]}</span>
      </a>
    {:else if coupon.next.kind === 'pass'}
      <button
        class="plate strip"
        disabled={busy || outbox.passesOf(coupon.id).length > 0}
        onclick={() => logNext(coupon)}>Log {codeOfNext(coupon)} clean</button
      >
    {:else}
      <a class="plate strip" href="/coupons/{coupon.id}"
        >{coupon.next.kind === 'fitUp' ? 'Check the fit-up' : 'Look and close'}</a
      >
    {/if}
  {:else if booth.closedWhy}
    <p class="p-2.5 pr-12 leading-tight">
      <span class="block font-bold text-(--soft)">Closed</span>
      <span class="text-sm">{booth.closedWhy}</span>
    </p>
  {:else if planned}
    <div class="p-1.5 pr-12">
      <p class="px-1 leading-tight font-bold">{plannedName}</p>
      <PlannedStart {planned} {booth} />
    </div>
  {:else}
    <button
      class="grow p-2.5 pr-12 text-left leading-tight"
      aria-label="Free: start here, booth {booth.number}"
      onclick={() => onstart()}
    >
      <span class="block font-bold text-(--soft)">Free</span>
      <span class="text-sm text-(--soft)">{later ?? 'start here'}</span>
    </button>
  {/if}
</li>

<style>
  .tile {
    position: relative;
    display: flex;
    min-width: 0;
    flex-direction: column;
    background: var(--sheet);
    box-shadow: 0 0 0 2px var(--steel-edge);
  }
  .slim {
    min-height: 66px;
    background: var(--page);
  }
  .planned {
    background: var(--sheet);
    box-shadow:
      0 0 0 2px var(--steel-edge),
      inset 0 0 0 3px var(--straw);
  }
  .closed {
    background: repeating-linear-gradient(135deg, transparent 0 8px, var(--line) 8px 9px);
  }
  .corner {
    position: absolute;
    top: 0;
    right: 0;
    min-width: 48px;
    min-height: 48px;
    padding-right: 0.6rem;
    text-align: right;
    font-size: 1.9rem;
    line-height: 1;
  }
  .quiet {
    color: var(--cold);
  }
  .as-test {
    border-bottom: 3px solid var(--blue);
    color: var(--ink);
    font-weight: 700;
    line-height: 1.05;
  }
  .strip {
    display: flex;
    width: 100%;
    min-height: 56px;
    align-items: center;
    gap: 0.5rem;
    padding: 0.3rem 0.7rem;
    border-radius: 0;
    font-weight: 650;
  }
  .waits {
    background: var(--straw);
    color: var(--on-straw);
  }
</style>
