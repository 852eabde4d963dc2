<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { SvelteSet } from 'svelte/reactivity'
  import { page } from '$app/state'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import BeadPlanRow from '$lib/bench/BeadPlanRow.svelte'
  import FindingPanel from '$lib/bench/FindingPanel.svelte'
  import { FitUpDraft } from '$lib/bench/fit-up-draft.svelte'
  import FitUpPanel from '$lib/bench/FitUpPanel.svelte'
  import LifeBar from '$lib/bench/LifeBar.svelte'
  import PassPanel from '$lib/bench/PassPanel.svelte'
  import PlaceMap from '$lib/bench/PlaceMap.svelte'
  import VerdictPanel from '$lib/bench/VerdictPanel.svelte'
  import JointSection from '$lib/drawings/JointSection.svelte'
  import { notices } from '$lib/notices.svelte'
  import VerdictMark from '$lib/parts/VerdictMark.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { couponQuery } from '$lib/queries'
  import { outbox, write } from '$lib/outbox.svelte'
  import {
    DEAD_MS,
    logPass,
    NO_EXTRAS,
    takeBackPass,
    tellEvent,
    type PassExtras,
    type Run,
  } from '$lib/recording'
  import { beadName, stageName } from '$lib/words'

  type Step = 'fitUp' | 'weld' | 'find' | 'close'
  const STEPS: { id: Step; name: string }[] = [
    { id: 'fitUp', name: 'Fit-up' },
    { id: 'weld', name: 'Weld' },
    { id: 'find', name: 'Finding' },
    { id: 'close', name: 'Look and close' },
  ]
  const FIRST_STEP: Record<Schema['NextKind'], Step> = {
    fitUp: 'fitUp',
    pass: 'weld',
    look: 'close',
    closed: 'close',
  }

  const client = useQueryClient()
  const id = $derived(page.params.id!)
  const query = couponQuery(() => id)
  const coupon = $derived(query.data)

  let chosenStep = $state<Step | null>(null)
  let chosenPoint = $state<string | null>(null)
  let chosenBead = $state<string | null>(null)
  let place = $state<{ clock: string | null; fromStartMm: number | null }>({ clock: null, fromStartMm: null })
  let cards = $state<Record<number, Schema['PassCard']>>({})
  let extras = $state<PassExtras>({ ...NO_EXTRAS })
  let marking = $state<'startAt' | 'stopAt' | null>(null)
  let busy = $state(false)
  // A double tap or a held key is one pass: after one, the next waits a moment.
  let dead = $state(false)
  let correcting = $state<Schema['FindingView'] | null>(null)
  let draft = $state<FitUpDraft | null>(null)
  // Beads on their way to the server: a second tap on the same one is not a second pass.
  const sending = new SvelteSet<string>()

  const step = $derived(chosenStep ?? (coupon ? FIRST_STEP[coupon.next.kind] : 'fitUp'))
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
  const own = $derived(new Set((coupon?.beads ?? []).map((bead) => bead.key)))
  const shownBead = $derived(coupon?.beads.find((bead) => bead.key === (chosenBead ?? nextKey)))

  $effect(() => {
    // The draft begins from what was recorded, and is kept in this browser until it is recorded itself.
    if (coupon && draft?.couponId !== coupon.id) draft = FitUpDraft.open(coupon)
  })

  async function refresh() {
    void client.invalidateQueries({ predicate: (other) => other.queryKey[0] !== 'coupon' })
    await client.invalidateQueries({ queryKey: ['coupon', id] })
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
      notices.add(`${beadName(bead)} logged${run ? '' : ' clean'}, ${card.amps} A.`, 'done', async () => {
        await takeBackPass(id, passId)
        await refresh()
      })
      await refresh()
    })
    sending.delete(key)
  }

  /** From the button and the key, which name the next bead as soon as one is laid: a double tap is one pass. */
  function logOnce(key: string, run: Run | null = null) {
    if (dead) return
    dead = true
    setTimeout(() => (dead = false), DEAD_MS)
    void log(key, run)
  }

  function tapBead(key: string) {
    if (laid.has(key) || closed || step === 'find') {
      chosenBead = key
      if (step !== 'find') chosenStep = 'weld'
    } else {
      // What has to be done first under the rules of a test is asked on the panel.
      if (coupon?.life.concerns.length) chosenBead = key
      else log(key)
      chosenStep = 'weld'
    }
  }

  async function takeBack(passId: string) {
    await notices.attempt(async () => {
      await takeBackPass(id, passId)
      chosenBead = null
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

  const measuring = $derived(step === 'fitUp' && !closed ? draft : null)
  const asks = $derived(
    measuring
      ? 'Tap where each tack is'
      : marking
        ? `Tap where the pass was ${marking === 'startAt' ? 'started' : 'stopped'}`
        : closed
          ? 'Findings at their place'
          : coupon?.findings.length
            ? 'Findings; tap a place to add one'
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
      if (!closed) chosenStep = 'find'
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
      if (chosenStep === was) chosenStep = outcome === 'go' || outcome === 'warn' ? 'weld' : 'fitUp'
    })
    busy = false
  }

  function onkeydown(event: KeyboardEvent) {
    const typing = (event.target as HTMLElement).closest('input, textarea, select, [contenteditable]')
    const covered = document.querySelector('dialog[open], [role="dialog"], [role="alertdialog"]')
    const held = event.repeat || event.ctrlKey || event.metaKey || event.altKey
    if (event.key !== 'l' || typing || covered || held || step !== 'weld') return
    if (coupon?.next.kind === 'pass' && nextKey && !coupon.life.concerns.length) logOnce(nextKey)
  }
</script>

<svelte:window {onkeydown} />
<svelte:head
  ><title>{coupon ? `${coupon.stamp} · ${coupon.student.name}` : 'Coupon'} · Gradus</title></svelte:head
>

{#if !coupon || !section}
  <Waiting error={query.error} retry={() => query.refetch()} what="The coupon" />
{:else}
  <div class="flex flex-wrap items-center gap-x-4 gap-y-1 pt-2 pb-2">
    <h1 class="flex min-w-0 items-baseline gap-3">
      <span class="stamp text-3xl" title="Stamp on the steel">{coupon.stamp}</span>
      <a
        class="min-w-0 text-xl break-words underline decoration-(--line) underline-offset-4"
        href="/students/{coupon.student.id}">{coupon.student.name}</a
      >
    </h1>
    <p class="text-(--soft)">
      <span class="number text-lg">{coupon.test.id}</span>
      {coupon.test.title}{coupon.drillId ? ', drill' : ''}; {coupon.asTest
        ? 'as under test'
        : 'coached'}{coupon.booth ? `; booth ${coupon.booth}` : ''}
    </p>
    <div class="ml-auto">
      {#if closed || coupon.verdict.kind === 'reject' || coupon.next.kind === 'look'}
        <VerdictMark kind={coupon.verdict.kind} />
      {:else}
        <span class="font-semibold text-(--soft)"
          ><span class="number text-xl">{laid.size} of {own.size}</span> beads laid</span
        >
      {/if}
    </div>
  </div>

  <LifeBar {coupon} onchanged={refresh} />

  <div class="grid gap-4 lg:grid-cols-[1.2fr_1fr] lg:grid-rows-[auto_1fr]">
    <section class="sheet min-w-0 p-3" aria-label="Joint section">
      <div class="flex flex-wrap items-center gap-2">
        <p class="eyebrow">
          {coupon.fitUp.measured ? 'Section as measured at' : 'Section as planned; measure at'}
        </p>
        <div role="group" aria-label="Measured at" class="flex flex-wrap gap-1">
          {#each points as at (at)}
            <button class="plate px-3" aria-pressed={point === at} onclick={() => (chosenPoint = at)}>
              {coupon.test.product === 'pipe' ? `${at} o'clock` : at}{draft?.isMeasured(at) ? ' ✓' : ''}
            </button>
          {/each}
        </div>
      </div>
      <JointSection
        {section}
        {laid}
        {own}
        next={coupon.fitUp.measured ? nextKey : coupon.next.beadKey}
        dimensions={step === 'fitUp' && draft && !closed ? draft.dimensions(point, coupon.fitUp.lines) : {}}
        onbead={tapBead}
        ondimension={(key) => draft?.choose(key)}
      />
    </section>

    <section class="sheet flex min-w-0 flex-col self-start lg:row-span-2" aria-label="Log">
      <div role="tablist" aria-label="Steps" class="grid grid-cols-4">
        {#each STEPS as one (one.id)}
          <button
            role="tab"
            class="plate rounded-none border-0 border-b-2 px-1"
            aria-selected={step === one.id}
            onclick={() => {
              chosenStep = one.id
              if (one.id !== 'find') correcting = null
            }}>{one.name}</button
          >
        {/each}
      </div>
      <div class="p-4">
        {#if step === 'fitUp' && draft}
          <FitUpPanel
            {coupon}
            {draft}
            {point}
            {busy}
            onpoint={(at) => (chosenPoint = at)}
            onsave={saveFitUp}
          />
        {:else if step === 'weld' && shownBead}
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
            onfinding={() => (chosenStep = 'find')}
          />
        {:else if step === 'weld'}
          <p class="text-lg">
            All planned beads are laid{coupon.test.stages.length
              ? ` (${coupon.test.stages.map((stage) => stageName(stage).toLowerCase()).join(', ')})`
              : ''}.
          </p>
          <button class="lead mt-3" onclick={() => (chosenStep = 'close')}>Look and close</button>
          {#if !closed && coupon.beads.length}<BeadPlanRow
              {coupon}
              bead={coupon.beads.at(-1)!}
              ontell={tell}
            />{/if}
        {:else if step === 'find'}
          <FindingPanel
            {coupon}
            bind:place
            bead={shownBead ?? null}
            {correcting}
            onsaved={async () => {
              place = { clock: null, fromStartMm: null }
              const was = correcting
              correcting = null
              await refresh()
              if (was) chosenStep = 'close'
              // Whoever went on meanwhile is not called back.
              if (chosenStep === 'find') chosenStep = null
            }}
          />
        {:else}
          <VerdictPanel
            {coupon}
            onchanged={refresh}
            oncorrect={(finding) => {
              correcting = finding
              place = { clock: finding.clock ?? null, fromStartMm: finding.fromStartMm ?? null }
              chosenStep = 'find'
            }}
          />
        {/if}
      </div>
    </section>
    <div class="order-3 min-w-0 lg:order-none">
      <PlaceMap {coupon} {place} draft={measuring} {asks} onpick={pick} />
    </div>
  </div>
  <p class="mt-3 text-sm text-(--soft)">
    {#each coupon.test.cautions as caution (caution.text)}
      <span class="mr-3 font-semibold text-(--caution)">{caution.text}</span>
    {/each}
    Local codes, the governing edition and a qualified inspector decide.
  </p>
{/if}
