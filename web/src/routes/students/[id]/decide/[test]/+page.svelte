<script lang="ts">
  import { changed } from '$lib/changed'
  import { useQueryClient } from '@tanstack/svelte-query'
  import { page } from '$app/state'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { moment } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import AdvicePanel from '$lib/parts/AdvicePanel.svelte'
  import ChanceBand from '$lib/parts/ChanceBand.svelte'
  import CouponTable from '$lib/parts/CouponTable.svelte'
  import ReadinessPanel from '$lib/parts/ReadinessPanel.svelte'
  import ResultForm from '$lib/parts/ResultForm.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { groundsQuery } from '$lib/queries'
  import { session } from '$lib/session.svelte'
  import { shortDay } from '$lib/weeks'
  import { adviceName, chanceSentence, decisionName, percent, stageName } from '$lib/words'

  const client = useQueryClient()
  const grounds = groundsQuery(
    () => page.params.id!,
    () => page.params.test!,
  )
  let kind = $state<Schema['DecisionKind'] | null>(null)
  let reason = $state('')
  let error = $state('')
  let id = newId()
  // What was chosen and written for one student is not signed for another.
  $effect.pre(() => {
    void [page.params.id, page.params.test]
    kind = null
    reason = error = ''
    id = newId()
  })

  const CHOICES: { kind: Schema['DecisionKind']; says: string }[] = [
    { kind: 'testNow', says: 'Book the sitting' },
    { kind: 'practise', says: 'More coupons first' },
    { kind: 'hold', says: 'Something must change before more coupons help' },
  ]

  async function safety(signed: boolean) {
    const path = { studentId: grounds.data!.studentId }
    await notices.attempt(async () => {
      await ask(
        signed
          ? api.PUT('/api/students/{studentId}/safety', { params: { path } })
          : api.DELETE('/api/students/{studentId}/safety', { params: { path } }),
      )
      notices.add(signed ? 'Safety signed off.' : 'Safety sign-off taken back.', 'done', () =>
        safety(!signed),
      )
      await changed(client, 'decision')
    })
  }

  async function sign(event: SubmitEvent) {
    event.preventDefault()
    error = !kind
      ? 'Choose one of the three.'
      : reason.trim() === ''
        ? 'Give the reason in your own words.'
        : ''
    if (error || !kind || !grounds.data) return
    const body = { studentId: grounds.data.studentId, testId: grounds.data.test.id, kind, reason }
    const done = await notices.attempt(() =>
      ask(api.PUT('/api/decisions/{id}', { params: { path: { id } }, body })),
    )
    if (!done) return
    notices.add(`Signed: ${decisionName(kind)}.`)
    id = newId()
    kind = null
    reason = ''
    await changed(client, 'decision')
  }
</script>

<svelte:head><title>Decide · Gradus</title></svelte:head>

{#if !grounds.data}
  <Waiting error={grounds.error} retry={() => grounds.refetch()} what="The decision" />
{:else}
  {@const view = grounds.data}
  <div class="pt-4 pb-3">
    <h1 class="text-3xl">
      <a class="underline decoration-(--line) underline-offset-4" href="/students/{view.studentId}"
        >{view.studentName}</a
      >: is it time to test?
    </h1>
    <p class="text-(--soft)"><span class="number text-lg">{view.test.id}</span> {view.test.title}</p>
  </div>
  <div class="grid gap-5 lg:grid-cols-[1.25fr_1fr]">
    <section class="sheet p-4" aria-labelledby="grounds">
      <h2 id="grounds" class="text-xl">Grounds</h2>
      <div class="mt-2"><ChanceBand chance={view.test.whole} /></div>
      <p>{chanceSentence(view.test.whole)}</p>
      <ul class="mt-3 grid gap-1">
        {#each view.test.stages as { stage, chance } (stage)}
          <li
            class="grid grid-cols-[4rem_1fr] items-center gap-2"
            class:font-bold={stage === view.test.weakest}
          >
            <span>{stageName(stage)}</span><ChanceBand {chance} slim />
          </li>
        {/each}
      </ul>
      <div class="mt-4">
        <ReadinessPanel studentId={view.studentId} testId={view.test.id} />
      </div>
      <details class="mt-3">
        <summary class="cursor-pointer font-semibold">How the chance was reached</summary>
        <p class="mt-1 text-(--soft)">{view.test.method}</p>
      </details>
      <h3 class="eyebrow mt-4 mb-1">Last coupons</h3>
      <CouponTable rows={view.recent} />
    </section>

    <div>
      <AdvicePanel grounds={view} onsafety={safety} />
      <form class="sheet mt-4 border-t-8 p-4" style:border-top-color="var(--bronze)" onsubmit={sign}>
        <h2 class="text-xl">Decide</h2>
        <div class="mt-2 flex flex-col gap-2" role="radiogroup" aria-label="Decision">
          {#each CHOICES as choice (choice.kind)}
            <button
              type="button"
              role="radio"
              class="plate justify-start gap-3 text-lg"
              aria-checked={kind === choice.kind}
              onclick={() => (kind = choice.kind)}
            >
              <strong class="w-24 shrink-0 text-left">{decisionName(choice.kind)}</strong><span
                class="text-left text-base font-normal">{choice.says}</span
              >
            </button>
          {/each}
        </div>
        <label class="mt-4 block">
          <span class="eyebrow">Reason, in your words</span>
          <textarea class="field mt-1 block min-h-28 w-full" maxlength="1000" bind:value={reason}></textarea>
        </label>
        <p class="min-h-6 font-semibold text-(--caution)" role="alert">{error}</p>
        <button class="lead w-full text-lg">Sign as {session.view?.instructor?.name}</button>
        <p class="mt-3 text-sm text-(--soft)">
          You decide; these are grounds. Local codes, the governing edition and a qualified inspector decide
          at the sitting.
        </p>
      </form>
      <ResultForm grounds={view} />
      <section class="mt-5" aria-labelledby="signed">
        <h2 id="signed" class="mb-2 text-xl">Signed before</h2>
        {#each view.decisions as decision (decision.id)}
          <article class="sheet mb-2 p-3">
            <p>
              <strong>{decisionName(decision.kind)}</strong> at {decision.whole.tooLittleToTell
                ? 'too little to tell'
                : percent(decision.whole.mean)}
            </p>
            <p class="break-words">{decision.reason}</p>
            {#if decision.advised}
              <p class="text-sm text-(--soft)">
                Gradus advised then: {adviceName(decision.advised).toLowerCase()}.
              </p>
            {/if}
            {#if decision.since.sat}
              <p class="font-semibold">
                Sat on {shortDay(decision.since.sat.day)}: {decision.since.sat.passed
                  ? 'passed'
                  : 'not passed'}.
              </p>
            {/if}
            {#if decision.since.coupons > 0}
              <p class="text-sm">
                Since then: {decision.since.clean} of {decision.since.coupons} full {decision.since
                  .coupons === 1
                  ? 'coupon'
                  : 'coupons'} clean.
              </p>
            {/if}
            <p class="text-sm text-(--soft)">
              {decision.signedBy}, {moment(decision.signedAt, session.timeZone)}
            </p>
          </article>
        {:else}
          <p class="text-(--soft)">Nothing signed on this test yet.</p>
        {/each}
      </section>
    </div>
  </div>
{/if}
