<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { page } from '$app/state'
  import { api, ask, Refused, type Schema } from '$lib/api/client'
  import { changed } from '$lib/changed'
  import { dayOf } from '$lib/days'
  import { rulesText } from '$lib/library/text'
  import { notices } from '$lib/notices.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { sittingQuery } from '$lib/queries'
  import { session } from '$lib/session.svelte'
  import { signing } from '$lib/signing.svelte'
  import CertifyForm from '$lib/sittings/CertifyForm.svelte'
  import DayPoints from '$lib/sittings/DayPoints.svelte'
  import GivenFiles from '$lib/sittings/GivenFiles.svelte'
  import MadeCoupons from '$lib/sittings/MadeCoupons.svelte'
  import { sittingState, turnName } from '$lib/sittings/words'
  import Dialog from '$lib/ui/Dialog.svelte'
  import Fold from '$lib/ui/Fold.svelte'
  import Mark from '$lib/ui/Mark.svelte'
  import { longDay, todayIn } from '$lib/weeks'

  const id = $derived(page.params.id!)
  const client = useQueryClient()
  const sitting = sittingQuery(() => id)
  const view = $derived(sitting.data)
  const closed = $derived(!!view && (!!view.result || !!view.cancelledAt || !!view.voidedAt))
  const done = $derived(view?.points.filter((point) => point.markId).length ?? 0)
  let moving = $state(false)
  let ending = $state<'cancelled' | 'void' | null>(null)
  let day = $state('')
  let period = $state(0)
  let why = $state('')
  let despite = $state('')
  let asked = $state<string[]>([])
  let error = $state('')
  let failing = $state(false)
  let failedBy = $state('')
  const today = todayIn(session.timeZone)
  const again = () => changed(client, 'sitting')

  function startMove() {
    ;[day, period, why, despite, asked, error] = [view!.row.day, view!.row.period, '', '', [], '']
    moving = true
  }
  async function move(event: SubmitEvent) {
    event.preventDefault()
    error = ''
    try {
      await ask(
        api.PUT('/api/sittings/{id}/moved', {
          params: { path: { id } },
          body: { day, period, boothId: view!.boothId, why, despite: despite.trim() || null },
        }),
      )
      moving = false
      notices.add('Moved.')
      await again()
    } catch (problem) {
      if (problem instanceof Refused && problem.fields.despite) asked = problem.fields.despite.slice(0, -1)
      else error = problem instanceof Error ? problem.message : String(problem)
    }
  }
  async function cancel(event: SubmitEvent) {
    event.preventDefault()
    if (ending === 'void') return void (await sign('void', why))
    const ok = await notices.attempt(() =>
      ask(api.PUT('/api/sittings/{id}/cancelled', { params: { path: { id } }, body: { why } })),
    )
    if (!ok) return
    ending = null
    notices.add('Called off.')
    await again()
  }

  const SAYS = { passed: 'passed', failed: 'not passed', void: 'void' } as const
  async function sign(outcome: Schema['SittingOutcome'], note: string | null = null) {
    ending = null
    const signed = await signing.attempt(
      `${view!.row.studentName}, ${view!.row.testId}: ${SAYS[outcome]}${outcome === 'failed' && failedBy ? `, by ${failedBy}` : ''}.`,
      (header) =>
        ask(
          api.PUT('/api/sittings/{id}/result', {
            params: { path: { id }, header },
            body: { outcome, failedBy: outcome === 'failed' ? failedBy.trim() || null : null, note },
          }),
        ),
    )
    if (!signed) return
    failing = false
    notices.add(`Signed: ${SAYS[outcome]}.`)
    await again()
  }
  async function takeBack() {
    const signed = await signing.attempt('A signed result is taken back.', (header) =>
      ask(api.DELETE('/api/results/{id}', { params: { path: { id }, header } })),
    )
    if (signed) await again()
  }
</script>

<svelte:head><title>{view ? `Sitting: ${view.row.studentName}` : 'Sitting'} · Gradus</title></svelte:head>

{#if !view}
  <Waiting error={sitting.error} retry={() => sitting.refetch()} what="The sitting" />
{:else}
  {@const state = sittingState(view.row.state)}
  <p class="pt-2"><a class="bare" href="/sittings">All sittings</a></p>
  <div class="flex flex-wrap items-start gap-x-4 gap-y-2">
    <div class="min-w-0">
      <h1 class="flex flex-wrap items-center gap-x-3 text-3xl">
        <a
          class="break-words underline decoration-(--line) underline-offset-4"
          href="/students/{view.row.studentId}">{view.row.studentName}</a
        >
        <span class="number">{view.row.testId}</span>
      </h1>
      <p class="text-lg">
        <Mark of={state.of} label={state.name} />
        <b>{longDay(view.row.day)}, {view.row.periodName.toLowerCase()}</b>{view.row.booth
          ? `, booth ${view.row.booth}`
          : ', booth said on the day'}; {view.row.inspector ?? 'no inspector named yet'}; {view.codeName}
      </p>
      <p class="text-(--soft)">
        {view.row.title}{view.variants.length
          ? `, ${view.variants.join(', ').toLowerCase()}`
          : ''}{view.procedure ? `; ${view.procedure}` : '; no procedure named'}.{view.row.turn === 'first'
          ? ''
          : ` ${turnName(view.row.turn)}: ${view.coupons} ${view.coupons === 1 ? 'coupon' : 'coupons'}.`}
        {view.decidedAt
          ? `On the decision of ${dayOf(view.decidedAt, session.timeZone)} by ${view.decidedBy}.`
          : ''}
      </p>
      {#if view.despite}<p class="text-(--soft)">Booked all the same: {view.despite}</p>{/if}
      {#each view.moves as one (one)}<p class="text-sm text-(--soft)">{one}</p>{/each}
      {#if view.row.state === 'cancelled'}<p class="font-semibold">Called off: {view.row.why}</p>{/if}
    </div>
    {#if !closed}
      <div class="ml-auto flex flex-wrap gap-2">
        <button class="plate" onclick={startMove} disabled={view.made.length > 0}>Move</button>
        <button
          class="plate"
          onclick={() => {
            why = ''
            ending = view.made.length > 0 ? 'void' : 'cancelled'
          }}>{view.made.length > 0 ? 'Declare void' : 'Call off'}</button
        >
      </div>
    {/if}
  </div>

  {#if view.result}
    <section class="sheet mt-3 flex flex-wrap items-center gap-x-4 gap-y-2 px-4 py-3" aria-label="Result">
      <h2 class="text-2xl">
        <Mark
          of={view.result.outcome === 'passed' ? 'done' : view.result.outcome === 'failed' ? 'fault' : 'out'}
        />
        {SAYS[view.result.outcome][0]!.toUpperCase()}{SAYS[view.result.outcome].slice(1)}
      </h2>
      <p class="min-w-0">
        {view.result.failedBy ? `By ${view.result.failedBy}. ` : ''}{view.result.note
          ? `${view.result.note} `
          : ''}Signed by
        {view.result.by}.
      </p>
      {#if view.result.outcome === 'passed' && view.row.certificateId}
        <a class="lead ml-auto" href="/certificates/{view.row.certificateId}">Open the record</a>
      {:else if view.result.outcome !== 'void'}
        <button class="bare ml-auto" onclick={takeBack}>Take the result back</button>
      {/if}
      {#if view.retest.length}
        <div class="w-full border-t pt-2">
          <p class="font-semibold">How it may be taken again</p>
          <p class="text-(--soft)">{view.retestRule}</p>
          <ul class="list-disc pl-5">
            {#each view.retest as way (way.turn)}
              <li>
                {turnName(way.turn)}: {way.coupons}
                {way.coupons === 1 ? 'coupon' : 'coupons'}{way.needs ? `. ${way.needs}` : ''}
              </li>
            {/each}
          </ul>
          <a class="plate mt-2" href="/students/{view.row.studentId}/decide/{view.row.testId}"
            >To the decision</a
          >
        </div>
      {/if}
    </section>
  {/if}

  <div class="mt-3 grid items-start gap-4 lg:grid-cols-2">
    <section class="sheet px-4 py-2" aria-labelledby="list">
      <h2 id="list" class="flex items-baseline gap-3 text-xl">
        The day <span class="text-base font-normal text-(--soft)">{done} of {view.points.length} done</span>
      </h2>
      <DayPoints sitting={view} {closed} />
    </section>
    <div class="flex flex-col gap-4">
      <section class="sheet px-4 py-2" aria-labelledby="coupon">
        <h2 id="coupon" class="text-xl">{view.coupons > 1 ? 'The coupons' : 'The coupon'}</h2>
        <MadeCoupons sitting={view} {closed} />
        <Fold name="Reports from a laboratory" value={view.files.length ? String(view.files.length) : 'none'}>
          <p class="text-sm text-(--soft)">Kept as given. Nothing reads them: you do.</p>
          <GivenFiles
            files={view.files}
            path="/api/sittings/{id}"
            label="Add a PDF or picture"
            settling
            canAdd={!closed}
            ondone={() => void again()}
          />
        </Fold>
      </section>
      {#if !closed && view.made.length}
        <section class="sheet px-4 py-3" aria-labelledby="result">
          <h2 id="result" class="text-xl">Result</h2>
          {#if view.suggested}
            <p>
              The record shows: <b
                >{SAYS[view.suggested.outcome ?? 'void']}{view.suggested.failedBy
                  ? `, by ${view.suggested.failedBy}`
                  : ''}</b
              >.
            </p>
          {:else}
            <ul class="list-disc pl-5">
              {#each view.lacking as one (one)}<li>{one}</li>{/each}
            </ul>
          {/if}
          <div class="mt-2 flex flex-wrap gap-2">
            <button
              class={view.suggested?.outcome === 'failed' ? 'plate' : 'lead'}
              disabled={view.suggested?.outcome !== 'passed'}
              onclick={() => sign('passed')}>Sign: passed</button
            >
            <button
              class={view.suggested?.outcome === 'failed' ? 'lead' : 'plate'}
              onclick={() => {
                failedBy = view.suggested?.failedBy ?? ''
                if (failedBy) void sign('failed')
                else failing = true
              }}>{view.suggested?.outcome === 'failed' ? 'Sign: not passed' : 'Not passed'}</button
            >
          </div>
          <p class="mt-2 text-sm text-(--soft)">
            You sign as {session.view?.person?.name}, with your PIN. The governing edition and a qualified
            inspector decide.
          </p>
        </section>
      {/if}
      {#if view.result?.outcome === 'passed' && !view.row.certificateId}
        <section class="sheet px-4 py-3" aria-labelledby="certify">
          <h2 id="certify" class="text-xl">Certify it</h2>
          <CertifyForm sitting={view} />
        </section>
      {/if}
      <section class="sheet px-4 py-2" aria-labelledby="rules">
        <h2 id="rules" class="text-xl">Rules of this sitting</h2>
        <ul class="list-disc pl-5">
          {#each rulesText(view.rules) as line (line)}<li>{line}</li>{/each}
          <li>
            {view.byFilm
              ? 'Filmed in place of bends'
              : `Cut: ${view.specimens.join(', ').toLowerCase() || 'nothing'}`}
          </li>
        </ul>
      </section>
    </div>
  </div>

  <Dialog bind:open={moving} title="Move the sitting">
    <form class="flex flex-col gap-2" onsubmit={move}>
      <label
        ><span class="eyebrow block">Day</span><input
          type="date"
          class="field w-full"
          min={today}
          required
          bind:value={day}
        /></label
      >
      <label
        ><span class="eyebrow block">Period, counted from 1</span><input
          type="number"
          class="field w-full"
          min="1"
          max="20"
          required
          value={period + 1}
          oninput={(event) => (period = Number(event.currentTarget.value) - 1)}
        /></label
      >
      <label
        ><span class="eyebrow block">Why</span><input
          class="field w-full"
          maxlength="500"
          required
          bind:value={why}
        /></label
      >
      {#if asked.length}
        <div class="border-l-4 border-(--caution) pl-3">
          {#each asked as one (one)}<p class="font-semibold">{one}</p>{/each}
          <label
            ><span class="eyebrow block">Why all the same</span><input
              class="field w-full"
              maxlength="500"
              required
              bind:value={despite}
            /></label
          >
        </div>
      {/if}
      <p class="min-h-6 font-semibold text-(--caution)" role="alert">{error}</p>
      <button class="lead">Move it</button>
    </form>
  </Dialog>
  <Dialog
    bind:open={
      () => ending !== null,
      (value) => {
        if (!value) ending = null
      }
    }
    title={ending === 'void' ? 'Declare the sitting void' : 'Call the sitting off'}
  >
    <form class="flex flex-col gap-2" onsubmit={cancel}>
      {#if ending === 'void'}<p>It then says nothing of the welder, and can be booked anew.</p>{/if}
      <label
        ><span class="eyebrow block">Why</span><input
          class="field w-full"
          maxlength="500"
          required
          bind:value={why}
        /></label
      >
      <button class="lead">{ending === 'void' ? 'Sign: void' : 'Call it off'}</button>
    </form>
  </Dialog>
  <Dialog bind:open={failing} title="Not passed">
    <form
      class="flex flex-col gap-2"
      onsubmit={(event) => {
        event.preventDefault()
        failing = false
        void sign('failed')
      }}
    >
      <label
        ><span class="eyebrow block">By which part</span><input
          class="field w-full"
          maxlength="200"
          required
          placeholder="the report of the laboratory"
          bind:value={failedBy}
        /></label
      >
      <button class="lead">Sign: not passed</button>
    </form>
  </Dialog>
{/if}
