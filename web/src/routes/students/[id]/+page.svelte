<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { page } from '$app/state'
  import { api, ask, type Schema } from '$lib/api/client'
  import StudentArcs from '$lib/arc/StudentArcs.svelte'
  import { changed } from '$lib/changed'
  import { dayOf } from '$lib/days'
  import JointSection from '$lib/drawings/JointSection.svelte'
  import { notices } from '$lib/notices.svelte'
  import ChanceBand from '$lib/parts/ChanceBand.svelte'
  import CouponTable from '$lib/parts/CouponTable.svelte'
  import EditStudent from '$lib/parts/EditStudent.svelte'
  import PatternsView from '$lib/parts/PatternsView.svelte'
  import ReadinessPanel from '$lib/parts/ReadinessPanel.svelte'
  import StartCoupon from '$lib/parts/StartCoupon.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { patternsQuery, studentQuery, testQuery, wayQuery } from '$lib/queries'
  import AdviceMark from '$lib/ready/AdviceMark.svelte'
  import BandLine from '$lib/ready/BandLine.svelte'
  import Reached from '$lib/ready/Reached.svelte'
  import SaidBefore from '$lib/ready/SaidBefore.svelte'
  import { session } from '$lib/session.svelte'
  import GoesWrong from '$lib/student/GoesWrong.svelte'
  import HoldsAndSittings from '$lib/student/HoldsAndSittings.svelte'
  import NextUp from '$lib/student/NextUp.svelte'
  import WaySeam from '$lib/student/WaySeam.svelte'
  import Fold from '$lib/ui/Fold.svelte'
  import { decisionName, percent, stageName } from '$lib/words'

  const id = $derived(page.params.id!)
  const client = useQueryClient()
  const student = studentQuery(() => id)
  const patterns = patternsQuery(() => id)
  const way = wayQuery(() => id)
  const test = testQuery(() => student.data?.targetTestId ?? '')
  let starting = $state(false)
  let editing = $state(false)
  let older = $state<Schema['CouponRow'][]>([])
  let next = $state<string | null | undefined>(undefined)
  // Of each student their own.
  $effect.pre(() => {
    void id
    older = []
    next = undefined
    starting = editing = false
  })

  const view = $derived(student.data)
  const rows = $derived([...(view?.coupons.rows ?? []), ...older])
  const before = $derived(next === undefined ? view?.coupons.next : next)
  const open = $derived(rows.find((row) => !row.closedAt && !row.voidedAt))
  const target = $derived(view?.tests.find((one) => one.id === view.targetTestId))
  const others = $derived(view?.tests.filter((one) => one.id !== view.targetTestId) ?? [])
  const passed = $derived((way.data?.way ?? []).filter((step) => step.credited).toReversed())
  const last = $derived(view?.decisions.find((decision) => !decision.withdrawn))
  const bestCard = $derived(
    patterns.data?.worked
      .flatMap((one) => one.cards)
      .toSorted((a, b) => (b.clean?.cleanPasses ?? 0) - (a.clean?.cleanPasses ?? 0))[0],
  )
  const SHOWN = 3

  async function signSafety() {
    const path = { studentId: id }
    const done = await notices.attempt(() =>
      ask(api.PUT('/api/students/{studentId}/safety', { params: { path } })),
    )
    if (!done) return
    notices.add(`Safety is signed off for ${view!.name}.`, 'done', async () => {
      await ask(api.DELETE('/api/students/{studentId}/safety', { params: { path } }))
      await changed(client, 'student')
    })
    await changed(client, 'student')
  }

  async function more() {
    await notices.attempt(async () => {
      const found = await ask(
        api.GET('/api/students/{id}/coupons', { params: { path: { id }, query: { before: before! } } }),
      )
      older = [...older, ...found.rows]
      next = found.next
    })
  }
</script>

<svelte:head><title>{view?.name ?? 'Student'} · Gradus</title></svelte:head>

{#if !view || !target}
  <Waiting error={student.error} retry={() => student.refetch()} what="The student" room="44rem" />
{:else}
  <div class="flex flex-wrap items-center gap-x-4 gap-y-2 pt-3 pb-2">
    <div class="min-w-0">
      <h1 class="text-3xl break-words">{view.name}</h1>
      <p class="text-(--soft)">
        {view.className}, {view.hand} hand{view.safetySignedAt
          ? `, safety signed off ${dayOf(view.safetySignedAt, session.timeZone)}`
          : ''}{view.note ? `. Note: ${view.note}` : ''}
      </p>
    </div>
    <div class="ml-auto flex flex-wrap items-center gap-2">
      <a class="plate" href="/students/{view.id}/decide/{target.id}">Decide</a>
      {#if !view.erasedAt}<button class="plate" onclick={() => (editing = true)}>Change</button>{/if}
      {#if open}<a class="lead" href="/coupons/{open.id}">Open the coupon in work</a>
      {:else if !view.leftAt}<button class="lead" onclick={() => (starting = true)}>Start a coupon</button
        >{/if}
    </div>
  </div>

  {#if !view.leftAt && !view.safetySignedAt}
    <p class="mb-3 flex flex-wrap items-center gap-3 border-l-4 border-(--caution) px-3">
      <strong class="mr-auto">Safety is not signed off.</strong>
      <button class="plate" onclick={signSafety}>Sign off safety</button>
    </p>
  {/if}
  {#if view.erasedAt}
    <p class="mb-3 bg-(--caution-ground) px-4 py-2 font-semibold text-(--caution)">
      Erased on {dayOf(view.erasedAt, session.timeZone)}: name, words and photos. What was welded stays
      without them.
    </p>
  {:else if view.leftAt}
    <p class="mb-3 bg-(--caution-ground) px-4 py-2 font-semibold text-(--caution)">
      Left on {dayOf(view.leftAt, session.timeZone)}. The record stays, and counts nowhere; under Change a
      student comes back.
    </p>
  {/if}

  {#key view.id}<HoldsAndSittings studentId={view.id} />{/key}

  <section
    class="sheet grid items-center gap-x-6 gap-y-3 p-4 md:grid-cols-2 xl:grid-cols-[10rem_1.1fr_1.15fr_1.25fr]"
    aria-label="The target"
  >
    <div class="h-24 max-xl:hidden" aria-hidden="true">
      {#if test.data?.sections[0]}<JointSection section={test.data.sections[0].section} />{/if}
    </div>
    <div class="min-w-0 leading-snug">
      <p class="text-sm text-(--soft)">
        Target <b class="number ml-1 text-2xl text-(--ink)">{target.id}</b>
      </p>
      <p class="font-bold">{target.title}</p>
      <p class="text-(--soft)">
        {target.whole.coupons} whole {target.whole.coupons === 1 ? 'coupon' : 'coupons'}, {target.whole
          .cleanCoupons} clean
      </p>
    </div>
    <div class="min-w-0">
      <p class="flex items-center gap-3 leading-tight">
        <b class="number text-5xl">{target.whole.tooLittleToTell ? '?' : percent(target.whole.mean)}</b>
        <span class="text-(--soft)"
          >chance to pass, between {percent(target.whole.lower)} and {percent(target.whole.upper)}; {percent(
            target.bar,
          )} asked</span
        >
      </p>
      <BandLine passing={target.whole} bar={target.bar} unclear={target.whole.tooLittleToTell} />
    </div>
    <a
      class="flex items-start gap-3 xl:border-l xl:pl-5"
      href="/students/{view.id}/decide/{target.id}"
      aria-label="{target.says}. {target.why} To the decision"
    >
      <AdviceMark kind={target.advised} takeBack={target.takeBack} size={30} />
      <span><b class="block text-xl leading-tight">{target.says}</b>{target.why}</span>
    </a>
  </section>

  <section class="mt-3" aria-labelledby="steps">
    <div class="flex flex-wrap items-baseline gap-x-3">
      <h2 id="steps" class="text-lg">Steps to the goal</h2>
      {#if way.data}
        <span class="text-(--soft)"
          >at {way.data.couponsPerWeek.toFixed(1)} coupons a week{way.data.isLate
            ? '; too slow for the day that was set'
            : ''}</span
        >
        <a class="bare ml-auto min-h-0 py-0" href="/plan/steps?student={view.id}">Change the goal</a>
      {/if}
    </div>
    {#if way.data}
      <WaySeam way={way.data} />
    {:else}
      <Waiting error={way.error} retry={() => way.refetch()} what="The steps" room="7rem" />
    {/if}
  </section>

  <div class="mt-3 grid gap-x-8 gap-y-4 md:grid-cols-2 xl:grid-cols-3">
    <section class="border-t-2 border-(--steel-edge) pt-1.5" aria-labelledby="passed">
      <h2 id="passed" class="text-lg">Passed</h2>
      <ul>
        {#each passed.slice(0, SHOWN) as step (step.test)}
          <li class="grid min-h-12 grid-cols-[2.6rem_1fr] items-center gap-2 border-t py-1 first:border-t-0">
            <b class="number text-xl">{step.test}</b>
            <span class="leading-tight"
              ><b class="block">{step.title}</b><span class="text-sm text-(--soft)">{step.creditedWhy}</span
              ></span
            >
          </li>
        {:else}
          <li class="py-2 text-(--soft)">No test passed yet.</li>
        {/each}
      </ul>
      {#if passed.length > SHOWN}<p class="text-sm text-(--soft)">And {passed.length - SHOWN} more.</p>{/if}
    </section>
    <section class="border-t-2 border-(--steel-edge) pt-1.5" aria-labelledby="wrong">
      <h2 id="wrong" class="text-lg">Keeps going wrong</h2>
      <GoesWrong test={target} />
    </section>
    <section
      class="border-t-2 border-(--steel-edge) pt-1.5 md:col-span-2 xl:col-span-1"
      aria-labelledby="next"
    >
      <h2 id="next" class="text-lg">Next</h2>
      <NextUp studentId={view.id} {open} way={way.data} />
    </section>
  </div>

  <div class="mt-3 grid gap-x-8 border-t-2 border-(--steel-edge) md:grid-cols-2 xl:grid-cols-3">
    <div>
      <Fold name="Chance over time" value="{target.whole.coupons} coupons">
        <ReadinessPanel studentId={view.id} testId={target.id} />
      </Fold>
      <Fold name="All coupons" value={before ? `${rows.length} and more` : String(rows.length)}>
        <CouponTable {rows} />
        {#if before}<button class="plate mt-2" onclick={more}>Older coupons</button>{/if}
      </Fold>
      <Fold name="Other tests" value={others.length === 0 ? 'none' : others.map((one) => one.id).join(', ')}>
        <ul>
          {#each others as one (one.id)}
            <li class="border-t py-2 first:border-t-0">
              <a class="bare" href="/students/{view.id}/decide/{one.id}"
                ><span class="number text-lg">{one.id}</span> {one.brief}</a
              >
              <ChanceBand chance={one.whole} slim />
              <p class="text-sm"><b>{one.says}</b> <span class="text-(--soft)">{one.why}</span></p>
            </li>
          {:else}<li class="py-2 text-(--soft)">Nothing was made on another test.</li>{/each}
        </ul>
      </Fold>
    </div>
    <div>
      <Fold
        name="By stage"
        value={target.weakest ? `weakest: ${stageName(target.weakest).toLowerCase()}` : 'too little to tell'}
      >
        <ul>
          {#each target.stages as { stage, chance } (stage)}
            <li
              class="grid grid-cols-[4rem_1fr] items-center gap-2 border-t py-1 first:border-t-0"
              class:font-bold={stage === target.weakest}
            >
              <span>{stageName(stage)}</span>
              <ChanceBand {chance} slim />
            </li>
          {/each}
        </ul>
      </Fold>
      <Fold
        name="What was decided"
        value={last
          ? `${decisionName(last.kind).toLowerCase()}, ${dayOf(last.signedAt, session.timeZone)}`
          : 'nothing yet'}
      >
        {#key view.id}<SaidBefore decisions={view.decisions} withTest />{/key}
      </Fold>
      <Fold name="Behind the number" value="this test, earlier ones">
        <Reached studentId={view.id} testId={target.id} />
      </Fold>
    </div>
    <div>
      <Fold
        name="What the coupons tell"
        value={bestCard?.clean
          ? `${stageName(bestCard.stage).toLowerCase()} ${Math.round(bestCard.amps)} A, ${bestCard.clean.cleanPasses} of ${bestCard.clean.passes}`
          : ''}
      >
        {#if patterns.data}
          <PatternsView
            patterns={patterns.data.patterns}
            worked={patterns.data.worked}
            name={view.name.split(' ')[0]}
          />
        {:else}
          <Waiting error={patterns.error} retry={() => patterns.refetch()} what="What the coupons tell" />
        {/if}
      </Fold>
      <StudentArcs studentId={view.id} />
    </div>
  </div>
  <StartCoupon bind:open={starting} studentId={view.id} />
  <EditStudent bind:open={editing} student={view} />
{/if}
