<script lang="ts">
  import { page } from '$app/state'
  import { useQueryClient } from '@tanstack/svelte-query'
  import { MediaQuery, SvelteSet } from 'svelte/reactivity'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import ArcOfBead from '$lib/arc/ArcOfBead.svelte'
  import AskedArcs from '$lib/arc/AskedArcs.svelte'
  import LiveArc from '$lib/arc/LiveArc.svelte'
  import { changed } from '$lib/changed'
  import Coach from '$lib/coach/Coach.svelte'
  import BeadPlanRow from './BeadPlanRow.svelte'
  import CouponDrawing from './CouponDrawing.svelte'
  import CouponMenu from './CouponMenu.svelte'
  import CouponNotices from './CouponNotices.svelte'
  import { codeOf } from './coupon-words'
  import FindingWord from './FindingWord.svelte'
  import FindingPanel from './FindingPanel.svelte'
  import { FitUpDraft } from './fit-up-draft.svelte'
  import FitUpPanel from './FitUpPanel.svelte'
  import { cutOf, lookAt, type LookSide } from './look'
  import PassPanel from './PassPanel.svelte'
  import PassWord from './PassWord.svelte'
  import type { FindingPlace } from './places'
  import VerdictPanel from './VerdictPanel.svelte'
  import { notices } from '$lib/notices.svelte'
  import VerdictMark from '$lib/parts/VerdictMark.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { arcsQuery, coachQuery, couponQuery } from '$lib/queries'
  import { outbox, write } from '$lib/outbox.svelte'
  import {
    DEAD_MS,
    layAgain,
    logPass,
    NO_EXTRAS,
    takeBackPass,
    tellEvent,
    type PassExtras,
    type Run,
  } from '$lib/recording'
  import { session } from '$lib/session.svelte'
  import Mark from '$lib/ui/Mark.svelte'
  import { nextFrame } from '$lib/ui/next-frame'
  import Fold from '$lib/ui/Fold.svelte'
  import Tabs from '$lib/ui/Tabs.svelte'
  import { nearestHour } from '$lib/clock'
  import { beadName, stageName } from '$lib/words'
  import { inUnits } from '$lib/units.svelte'

  // The order of work is the way through the page: the fit-up, each stage with its beads, the look at the whole.
  type Step = 'fitUp' | Schema['Stage'] | 'look'

  let { id }: { id: string } = $props()
  const client = useQueryClient()
  const query = couponQuery(() => id)
  const said = coachQuery(() => id)
  const arcs = arcsQuery(() => id)
  const coupon = $derived(query.data)

  let chosenStep = $state<Step | null>(null)
  let chosenPoint = $state<string | null>(null)
  let chosenBead = $state<string | null>(null)
  const NOWHERE: FindingPlace = { clock: null, fromStartMm: null, toe: null }
  let place = $state<FindingPlace>(NOWHERE)
  // There is room beside the panel for what is said of it.
  const desk = new MediaQuery('min-width: 1024px')
  let told = $state<Schema['FindingPreview'] | null>(null)
  let lookSide = $state<LookSide>('face')
  let specimen = $state<number | null>(null)
  let cards = $state<Record<number, Schema['PassCard']>>({})
  let extras = $state<PassExtras>({ ...NO_EXTRAS })
  let marking = $state<'startAt' | 'stopAt' | null>(null)
  let busy = $state(false)
  // A double tap or a held key is one pass: after one, the next waits a moment.
  let dead = $state(false)
  // A finding is put in from any step, and leads back to it.
  let finding = $state(page.url.searchParams.has('finding'))
  // The tap is answered by the panel; the drawing follows it.
  let placing = $state(false)
  $effect(() => {
    const follows = finding
    return nextFrame(() => (placing = follows))
  })
  let correcting = $state<Schema['FindingView'] | null>(null)
  let draft = $state<FitUpDraft | null>(null)
  // Beads on their way to the server: a second tap on the same one is not a second pass.
  const sending = new SvelteSet<string>()

  const step = $derived<Step>(chosenStep ?? stepOf(coupon))
  const closed = $derived(coupon?.closedAt != null)
  const points = $derived(coupon?.test.fitUp.points ?? [])
  const point = $derived(chosenPoint ?? points[0] ?? '')
  const section = $derived(
    coupon?.sections.find((one) => one.at === point)?.section ?? coupon?.sections[0]?.section,
  )
  // Passes that are on their way, or there but not shown yet, count as laid, so that the next one is not lost on the same bead.
  const waiting = $derived(outbox.passesOf(id))
  const laid = $derived(
    new Set([
      ...(coupon?.beads ?? []).filter((bead) => bead.pass).map((bead) => bead.key),
      ...waiting,
      ...sending,
    ]),
  )
  const nextKey = $derived(coupon?.beads.find((bead) => !laid.has(bead.key))?.key ?? null)
  const nextBead = $derived(coupon?.beads.find((bead) => bead.key === nextKey))
  const ofStep = $derived(coupon?.beads.filter((bead) => bead.stage === step) ?? [])
  const shownBead = $derived(
    ofStep.find((bead) => bead.key === chosenBead) ??
      (nextBead?.stage === step ? nextBead : (ofStep.find((bead) => !laid.has(bead.key)) ?? ofStep.at(-1))),
  )
  const steps = $derived<{ id: Step; name: string }[]>([
    { id: 'fitUp', name: 'Fit-up' },
    ...(coupon?.test.stages ?? [])
      .filter((stage) => stage !== 'fitUp')
      .map((stage) => ({ id: stage as Step, name: stageName(stage) })),
    { id: 'look', name: 'Look and close' },
  ])
  const stepStates = $derived(
    Object.fromEntries(
      steps.map((one) => {
        const beads = coupon?.beads.filter((bead) => bead.stage === one.id) ?? []
        const isDone =
          one.id === 'fitUp'
            ? coupon?.fitUp.outcome === 'go' || coupon?.fitUp.outcome === 'warn'
            : one.id === 'look'
              ? closed
              : beads.length > 0 && beads.every((bead) => laid.has(bead.key))
        return [one.id, isDone ? 'done' : one.id === stepOf(coupon) ? 'here' : 'open'] as const
      }),
    ),
  )

  function stepOf(of: Schema['CouponView'] | undefined): Step {
    if (!of || of.next.kind === 'fitUp') return 'fitUp'
    return of.next.kind === 'pass' ? (nextBead?.stage ?? 'look') : 'look'
  }
  function go(to: Step) {
    chosenStep = to
    chosenBead = null
    leaveFinding()
  }

  $effect(() => {
    // The draft begins from what was recorded, and is kept in this browser until it is recorded itself.
    if (coupon && draft?.couponId !== coupon.id) draft = FitUpDraft.open(coupon)
  })

  /** Back to where it was put in from. */
  function leaveFinding() {
    finding = false
    correcting = null
  }

  const refresh = () => changed(client, 'coupon')
  const nameOf = (key: string) => {
    const bead = coupon?.beads.find((one) => one.key === key)
    return bead ? beadName(bead) : key
  }
  const cardOf = (bead: Schema['BeadView']) => cards[bead.card] ?? coupon?.cards[bead.card]

  async function log(key: string, run: Run | null = null) {
    const bead = coupon?.beads.find((one) => one.key === key)
    const card = bead && cardOf(bead)
    if (!bead || !card || closed || sending.has(key)) return
    sending.add(key)
    await notices.attempt(async () => {
      const passId = await logPass(id, key, card, extras, run)
      extras = { ...NO_EXTRAS }
      marking = null
      // A bead in runs stays until it is whole.
      chosenBead = run && bead.runsLeft.length > 1 ? key : null
      chosenStep = coupon?.next.kind === 'fitUp' ? bead.stage : null
      notices.add(`${beadName(bead)} logged${run ? '' : ' clean'}, ${card.amps} A.`, 'done', async () => {
        await takeBackPass(id, passId)
        await refresh()
      })
      await refresh()
      // Whoever welds before the fit-up is recorded is not led back to it with every bead.
      if (coupon?.next.kind === 'fitUp') chosenStep = nextBead?.stage ?? null
    })
    sending.delete(key)
  }

  function wait() {
    dead = true
    setTimeout(() => (dead = false), DEAD_MS)
  }

  /** From the button and the key, which name the next bead as soon as one is laid: a double tap is one pass. */
  function logOnce(key: string, run: Run | null = null) {
    if (dead) return
    wait()
    void log(key, run)
  }

  function tapBead(key: string) {
    const bead = coupon!.beads.find((one) => one.key === key)!
    // What has to be done first under the rules of a test is asked on the panel.
    if (laid.has(key) || closed || finding || coupon!.life.concerns.length) {
      chosenStep = bead.stage
      chosenBead = key
    } else void log(key)
  }

  async function takeBack(passId: string) {
    // The button names the pass before as soon as one is taken back: a double tap takes one.
    if (dead) return
    wait()
    const bead = coupon?.beads.find((one) => one.runs.some((run) => run.id === passId))
    const run = bead?.runs.find((one) => one.id === passId)
    await notices.attempt(async () => {
      await takeBackPass(id, passId)
      chosenBead = null
      if (bead && run)
        notices.add(`${beadName(bead)} taken back.`, 'done', async () => {
          await layAgain(id, bead.key, run)
          await refresh()
        })
      await refresh()
    })
  }

  const tell = (kind: Schema['BenchEventKind'], body: Partial<Schema['BenchEventBody']>, says: string) =>
    tellEvent(id, kind, body, says, refresh)

  // A signature never waits on a tablet: it goes to the server at once or not at all.
  async function signSafety() {
    const studentId = coupon!.student.id
    await notices.attempt(async () => {
      await ask(api.PUT('/api/students/{studentId}/safety', { params: { path: { studentId } } }))
      notices.add(`Safety signed off for ${coupon!.student.name}.`, 'done', async () => {
        await ask(api.DELETE('/api/students/{studentId}/safety', { params: { path: { studentId } } }))
        await refresh()
      })
      await refresh()
    })
  }

  const measuring = $derived(step === 'fitUp' && !closed && !finding ? draft : null)
  const asks = $derived(
    measuring
      ? 'Tap where each tack is'
      : marking
        ? `Tap where the pass was ${marking === 'startAt' ? 'started' : 'stopped'}`
        : closed
          ? 'Findings at their place'
          : coupon?.findings.length
            ? 'Tap a place to add a finding there'
            : 'Tap a place to put a finding there',
  )

  function pick(picked: typeof place) {
    const at = picked.clock ?? String(picked.fromStartMm)
    if (measuring) measuring.placeTack(at)
    else if (marking) {
      extras[marking] = at
      marking = null
    } else {
      place = picked
      const { clock } = picked
      if (clock) nextFrame(() => (chosenPoint = nearestHour(clock, points)))
      if (!closed) finding = true
    }
  }

  async function saveFitUp() {
    if (!draft) return
    busy = true
    const was = chosenStep
    await notices.attempt(async () => {
      const fitUp = newId()
      await write(id, 'PUT', 'fit-ups', fitUp, draft!.toRequest(), 'the fit-up')
      draft!.forget()
      await refresh()
      const outcome = query.data?.fitUp.outcome
      notices.add(
        outcome === 'go' || outcome === 'warn'
          ? 'Fit-up recorded: go.'
          : 'Fit-up recorded. See what to mend.',
        'done',
        async () => {
          await write(id, 'DELETE', 'fit-ups', fitUp, null, 'a fit-up taken back')
          await refresh()
        },
      )
      if (chosenStep === was)
        chosenStep = outcome === 'go' || outcome === 'warn' ? (nextBead?.stage ?? 'look') : 'fitUp'
    })
    busy = false
  }

  function onkeydown(event: KeyboardEvent) {
    const typing = (event.target as HTMLElement).closest('input, textarea, select, [contenteditable]')
    const covered = document.querySelector('dialog[open], [role="dialog"], [role="alertdialog"]')
    const held = event.repeat || event.ctrlKey || event.metaKey || event.altKey
    if (event.key !== 'l' || typing || covered || held || finding || step === 'fitUp' || step === 'look')
      return
    if (coupon?.next.kind === 'pass' && nextKey && !coupon.life.concerns.length) logOnce(nextKey)
  }
</script>

<svelte:window {onkeydown} />
<svelte:head
  ><title>{coupon ? `${coupon.stamp} · ${coupon.student.name}` : 'Coupon'} · Gradus</title></svelte:head
>

{#snippet stepTab(one: { id: string; name: string })}
  {@const beads = coupon!.beads.filter((bead) => bead.stage === one.id)}
  {#if stepStates[one.id] === 'done'}<Mark of="clean" />{/if}
  <span>{one.name}</span>
  <span class="hidden gap-1 sm:flex" aria-hidden="true">
    {#each beads as bead (bead.key)}
      <span class="bead number" class:laid={laid.has(bead.key)} class:next={bead.key === nextKey}
        >{codeOf(coupon!, bead).replace('root', '1').replace('patch ', 'p')}</span
      >
    {/each}
  </span>
{/snippet}

{#snippet coach()}
  {#if shownBead && !closed && step !== 'look' && cardOf(shownBead)}
    <div class="pt-4">
      <Coach
        coupon={coupon!}
        bead={shownBead}
        card={cardOf(shownBead)!}
        section={section!}
        {laid}
        {point}
        title={beadName(shownBead)}
        ontell={tell}
      />
      <!-- Under the rules of a test the ranges are read, and nothing is said of how it is done. -->
      <Fold name="On the card" value={coupon!.asTest ? '' : inUnits(cardOf(shownBead)!.note ?? '')}>
        <PassWord card={cardOf(shownBead)!} silent={coupon!.asTest} />
      </Fold>
    </div>
  {/if}
{/snippet}

{#if !coupon || !section}
  <Waiting error={query.error} retry={() => query.refetch()} what="The coupon" />
{:else}
  <div class="flex items-center gap-x-4 gap-y-1 py-1.5">
    <a class="flex min-h-[48px] items-center gap-2 font-semibold" href="/" aria-label="To the floor">
      <svg viewBox="0 0 8 12" class="w-2" aria-hidden="true"
        ><path d="M6.5 1L1.5 6L6.5 11" fill="none" stroke="currentColor" stroke-width="2" /></svg
      ><span class="hidden sm:inline">{session.isStudent ? 'My work' : 'Floor'}</span>
    </a>
    {#if coupon.booth}<span
        class="number border-2 border-(--steel-edge) bg-(--sheet) px-3 text-4xl leading-[3rem]"
        title="Booth {coupon.booth}">{coupon.booth}</span
      >{/if}
    <div class="min-w-0 grow">
      <h1 class="flex flex-wrap items-baseline gap-x-3 text-2xl leading-tight">
        <a class="min-w-0 [overflow-wrap:anywhere]" href="/students/{coupon.student.id}"
          >{coupon.student.name}</a
        >
        <span class="stamp" title="Stamp on the steel">{coupon.stamp}</span>
      </h1>
      <p class="leading-tight text-(--soft)">
        <span class="number text-lg text-(--ink)">{coupon.test.id}</span>
        {coupon.test.title}{coupon.drillId ? ', drill' : ''}; {#if coupon.asTest}<span class="as-test"
            >test</span
          >{:else}coached{/if}
      </p>
    </div>
    {#if closed || coupon.verdict.kind === 'reject' || coupon.next.kind === 'look'}
      <VerdictMark kind={coupon.verdict.kind} />
    {/if}
    <CouponMenu {coupon} ontell={tell} />
  </div>

  <!-- What a finding is put in from is put aside and not taken down: it is there again at once, as it was left. -->
  <div class:put-aside={placing}>
    <Tabs label="Steps" tabs={steps} chosen={step} onchoose={go} tab={stepTab} states={stepStates} />
  </div>
  <div class="py-2"><CouponNotices {coupon} ontell={tell} onchanged={refresh} /></div>

  <div class="grid items-start gap-x-5 gap-y-4 lg:grid-cols-[minmax(0,19fr)_minmax(0,10fr)]">
    <div class="min-w-0">
      <CouponDrawing
        {coupon}
        {section}
        {laid}
        next={coupon.fitUp.measured ? nextKey : coupon.next.beadKey}
        {point}
        onpoint={(at) => (chosenPoint = at)}
        {place}
        {draft}
        measuring={measuring != null}
        {asks}
        onpick={pick}
        toeOf={placing ? ((shownBead ?? nextBead ?? coupon.beads.at(-1))?.key ?? null) : null}
        look={step === 'look' && !closed && !placing && !coupon.drillId
          ? lookAt(coupon, lookSide, (side) => (lookSide = side))
          : null}
        cut={step === 'look' && !placing
          ? cutOf(coupon, specimen, (index) => (specimen = specimen === index ? null : index))
          : null}
        onbead={tapBead}
      />
      {#if finding && told && desk.current}<div class="pt-4"><FindingWord {told} /></div>{/if}
      {#if desk.current && !finding}{@render coach()}{/if}
    </div>

    <section class="min-w-0" aria-label="Log">
      {#if finding}
        <FindingPanel
          {coupon}
          bind:place
          bead={shownBead ?? nextBead ?? null}
          {correcting}
          bind:told
          saysSo={!desk.current}
          onleave={leaveFinding}
          ontakenback={refresh}
          onsaved={async () => {
            place = NOWHERE
            const was = correcting
            leaveFinding()
            await refresh()
            if (was) chosenStep = 'look'
          }}
        />
      {/if}
      <div class:put-aside={finding}>
        {#if step === 'fitUp' && draft}
          <FitUpPanel
            {coupon}
            {draft}
            {point}
            {busy}
            onpoint={(at) => (chosenPoint = at)}
            onsave={saveFitUp}
          />
        {:else if step !== 'look' && shownBead}
          {#if arcs.data?.hasLogger && !closed}<LiveArc couponId={id} />{/if}
          <PassPanel
            {coupon}
            bead={shownBead}
            card={cardOf(shownBead)!}
            bind:extras
            bind:marking
            busy={dead || sending.has(shownBead.key)}
            onrun={(run) => logOnce(shownBead.key, run)}
            onsafety={signSafety}
            ontell={tell}
            onchange={(card) => (cards = { ...cards, [shownBead.card]: card })}
            onlog={() => logOnce(shownBead.key)}
            ontakeback={takeBack}
            onfinding={() => (finding = true)}
          />
          {#each shownBead.runs as run (run.id)}
            {@const arc = arcs.data?.beads.find((one) => one.passId === run.id)}
            {#if arc}<ArcOfBead couponId={id} bead={arc} />{/if}
          {/each}
          <AskedArcs {coupon} asked={arcs.data?.asked ?? []} {nameOf} />
          {#if !desk.current}{@render coach()}{/if}
        {:else if step !== 'look'}
          <p class="text-lg">No {stageName(step).toLowerCase()} bead is planned.</p>
          {#if !closed && coupon.beads.length}<BeadPlanRow
              {coupon}
              bead={coupon.beads.at(-1)!}
              ontell={tell}
            />{/if}
        {:else}
          <VerdictPanel
            {coupon}
            onchanged={refresh}
            onfinding={() => (finding = true)}
            side={lookSide}
            bind:specimen
            {point}
            onnext={(side, at) => {
              lookSide = side
              chosenPoint = at
            }}
            oncorrect={(wrong) => {
              correcting = wrong
              place = {
                clock: wrong.clock ?? null,
                fromStartMm: wrong.fromStartMm ?? null,
                toe: wrong.toe ?? null,
              }
              finding = true
            }}
          />
        {/if}
      </div>
    </section>
  </div>
  <p class="mt-4 text-sm text-(--soft)">
    {#each step === 'fitUp' ? (said.data?.fitUp ?? []) : step === 'look' ? (said.data?.look ?? []) : [] as caution (caution)}
      <span class="mr-3 font-semibold text-(--caution)">{inUnits(caution)}</span>
    {/each}
    Local codes, the governing edition and a qualified inspector decide.
  </p>
{/if}

<style>
  .as-test {
    border-bottom: 3px solid var(--blue);
    color: var(--ink);
    font-weight: 700;
  }
  .bead {
    min-width: 1.75rem;
    padding: 0 0.25rem;
    border: 1.5px dashed var(--cold);
    border-radius: 9px 9px 3px 3px;
    color: var(--soft);
    font-size: 1rem;
    line-height: 1.6rem;
  }
  .bead.next {
    border: 2px dashed var(--ink);
    background: var(--straw);
    color: var(--on-straw);
  }
  .bead.laid {
    border-color: transparent;
    background: var(--bronze);
    color: var(--on-bronze);
  }
</style>
