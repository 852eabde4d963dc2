<script lang="ts">
  import { page } from '$app/state'
  import type { Schema } from '$lib/api/client'
  import { dayOf } from '$lib/days'
  import { rulesText } from '$lib/library/text'
  import ChanceRings from '$lib/drawings/ChanceRings.svelte'
  import ChanceChart from '$lib/parts/ChanceChart.svelte'
  import CouponTable from '$lib/parts/CouponTable.svelte'
  import ResultForm from '$lib/parts/ResultForm.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { groundsQuery, readinessQuery, readyQuery, studentSittingsQuery, testQuery } from '$lib/queries'
  import AdviceMark from '$lib/ready/AdviceMark.svelte'
  import BandLine from '$lib/ready/BandLine.svelte'
  import ChanceWay from '$lib/ready/ChanceWay.svelte'
  import CostGround from '$lib/ready/CostGround.svelte'
  import Reached from '$lib/ready/Reached.svelte'
  import RulesFold from '$lib/ready/RulesFold.svelte'
  import SaidBefore from '$lib/ready/SaidBefore.svelte'
  import SignBar from '$lib/ready/SignBar.svelte'
  import Fold from '$lib/ui/Fold.svelte'
  import Mark from '$lib/ui/Mark.svelte'
  import { session } from '$lib/session.svelte'
  import { shortDay } from '$lib/weeks'
  import { decisionName, elementName, percent } from '$lib/words'

  const grounds = groundsQuery(
    () => page.params.id!,
    () => page.params.test!,
  )
  const readiness = readinessQuery(
    () => page.params.id!,
    () => page.params.test!,
  )
  const board = readyQuery(() => false)
  const test = testQuery(() => page.params.test!)
  const view = $derived(grounds.data)
  const template = $derived(test.data?.test)
  const toDecide = $derived((board.data?.rows ?? []).filter((row) => row.group === 'decide'))
  const place = $derived(
    toDecide.findIndex((row) => row.studentId === page.params.id && row.testId === page.params.test),
  )
  const firstName = $derived(view?.studentName.split(' ')[0] ?? '')
  const met = $derived(view?.advice.gates.filter((gate) => gate.met).length ?? 0)
  const byRun = $derived(view?.policy.school === 'runOfClean')
  const chanceIsMet = $derived(
    !!view &&
      !view.advice.tooLittleToTell &&
      view.advice.passing.mean >= view.policy.barMean &&
      view.advice.passing.lower >= view.policy.barLower,
  )
  const runAsked = $derived(view?.policy.runLength ?? 0)
  const last = $derived(view?.decisions.find((decision) => !decision.withdrawn))
  const lastResult = $derived(view?.results[0])
  const sittings = studentSittingsQuery(() => page.params.id!)
  const booked = $derived(sittings.data?.open.find((one) => one.testId === page.params.test))
  const toBook = $derived(
    last?.kind === 'testNow' &&
      (!lastResult || last.signedAt.slice(0, 10) > lastResult.day || !lastResult.passed),
  )

  /** What one more coupon would do, computed, in a sentence. */
  const oneMore = $derived.by(() => {
    if (!view || view.advice.tooLittleToTell) return ''
    const { clean, rejected } = view.oneMore
    const bar = view.policy.barMean
    const down = `a fault in ${elementName(view.advice.weakest)} would bring ${percent(rejected.mean)}`
    const isReady = view.advice.kind === 'testNow'
    const back =
      isReady && rejected.mean < bar
        ? `, and send ${firstName} back to practice`
        : isReady && view.policy.lastClean
          ? ', and ask for a clean one first'
          : ''
    return `One more clean coupon would bring ${percent(clean.mean)}; ${down}${back}.`
  })
  const costAgrees = $derived(
    !!view && (view.advice.kind === 'testNow') === (view.costs.steps[0]!.step === 'sit'),
  )
  const COST_DIFFERS: Record<Schema['Advised'], string> = {
    testNow: 'By cost alone one more first would be a little cheaper; what is asked for is reached.',
    practise:
      'By cost alone one would sit now and again until it is passed; the school asks for the chance first.',
    hold: 'By cost alone one would sit now; what stands in the way comes first.',
    notEnough: 'By cost alone one would sit now; what is known is too little to go by.',
    passed: 'It is passed: there is nothing to wait for.',
  }
  const MOST_DOTS = 12
  const LONG = 24
</script>

<svelte:head><title>{view ? `Decide: ${view.studentName}` : 'Decide'} · Gradus</title></svelte:head>

{#if !view}
  <Waiting error={grounds.error} retry={() => grounds.refetch()} what="The decision" room="44rem" />
{:else}
  {@const advice = view.advice}
  <div class="grid gap-x-8 gap-y-2 pt-2 lg:grid-cols-[1fr_29rem]">
    <div class="min-w-0">
      <p class="flex flex-wrap items-center gap-x-3">
        <a class="bare" href="/ready">Ready</a>
        {#if place >= 0}<span class="text-(--soft)">{place + 1} of {toDecide.length} to decide now</span>{/if}
        {#if place >= 0 && place + 1 < toDecide.length}
          {@const next = toDecide[place + 1]!}
          <a class="bare" href="/students/{next.studentId}/decide/{next.testId}">Next: {next.studentName}</a>
        {/if}
      </p>
      <p class="text-lg">
        <a
          class="font-bold underline decoration-(--line) underline-offset-4"
          href="/students/{view.studentId}">{view.studentName}</a
        >
        <span class="number text-xl">{view.test.id}</span>
        <span class="text-(--soft)">{view.test.title}</span>
      </p>
      <h1
        class="mt-1 flex items-center gap-4 text-4xl leading-tight {advice.says.length < LONG
          ? 'md:text-5xl'
          : ''}"
      >
        <AdviceMark kind={advice.kind} takeBack={advice.takeBack} size={52} />{advice.says}
      </h1>
      <p class="mt-1 text-lg leading-snug">{advice.why} {oneMore}</p>
    </div>
    <div class="min-w-0">
      {#if readiness.data}<ChanceWay trace={readiness.data.trace} bar={view.policy.barMean} />{/if}
    </div>
  </div>

  <div class="mt-3">
    {#if toBook || booked}
      <p class="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        {#if booked}
          <a class="lead" href="/sittings/{booked.id}">Open the sitting</a>
          <span class="text-(--soft)"
            >It is booked for {shortDay(booked.day)}, {booked.periodName.toLowerCase()}.</span
          >
        {:else if last}
          <a class="lead" href="/students/{view.studentId}/book/{view.test.id}">Book the sitting</a>
          <span class="text-(--soft)"
            >“Test now” was signed {dayOf(last.signedAt, session.timeZone)} by {last.signedBy}.</span
          >
        {/if}
      </p>
    {/if}
    {#key `${view.studentId} ${view.test.id}`}<SignBar grounds={view} quiet={toBook || !!booked} />{/key}
  </div>

  <div class="mt-4 grid border-t-2 border-(--steel-edge) md:grid-cols-3 md:divide-x md:divide-(--line)">
    <section class="py-2 md:pr-5" aria-labelledby="ground-chance">
      <h2 id="ground-chance" class="flex items-center gap-2 text-lg">
        <Mark of={chanceIsMet ? 'clean' : 'out'} label={chanceIsMet ? 'Enough' : 'Not enough'} />Chance to
        pass
      </h2>
      <p class="number text-5xl">{advice.tooLittleToTell ? '?' : percent(advice.passing.mean)}</p>
      <BandLine passing={advice.passing} bar={view.policy.barMean} unclear={advice.tooLittleToTell} tall />
      <p class="mt-1 text-sm text-(--soft)">
        Nine times in ten the truth is between {percent(advice.passing.lower)} and {percent(
          advice.passing.upper,
        )}; {percent(view.policy.barMean)} asked, {percent(view.policy.barLower)} for the lower end. {percent(
          advice.hiddenFree,
        )} of those clean by eye are sound inside.
      </p>
    </section>
    <section class="py-2 md:px-5" aria-labelledby="ground-run">
      <h2 id="ground-run" class="flex items-center gap-2 text-lg">
        <Mark
          of={advice.run.clean >= runAsked ? 'clean' : 'out'}
          label={advice.run.clean >= runAsked ? 'Enough' : 'Not enough'}
        />Clean in a row, without help
      </h2>
      <p>
        <span class="number text-5xl">{advice.run.clean}</span>
        <span class="number text-xl text-(--soft)">{runAsked} {byRun ? 'asked' : 'are usual'}</span>
      </p>
      <div class="flex h-[34px] items-center gap-1" aria-hidden="true">
        {#each { length: Math.min(MOST_DOTS, Math.max(advice.run.clean, runAsked)) }, index (index)}
          <Mark of={index < advice.run.clean ? 'done' : 'open'} />
        {/each}
      </div>
      <p class="mt-1 text-sm text-(--soft)">
        {#if advice.run.clean > 0}{advice.run.clean} in a row, alone, {advice.run.clean === 1
            ? 'proves'
            : 'prove'} no more than {percent(advice.run.reliability90)}.{:else}The last whole coupon under
          test rules was not clean, or there is none yet.{/if}
      </p>
    </section>
    <section class="py-2 md:pl-5" aria-labelledby="ground-cost">
      <h2 id="ground-cost" class="mb-2 flex items-center gap-2 text-lg">
        {#if costAgrees}<Mark of="clean" label="Says the same" />{/if}Cost until {firstName} passes
      </h2>
      <CostGround costs={view.costs} name={firstName} />
      {#if !costAgrees}<p class="mt-1 text-sm font-semibold">{COST_DIFFERS[advice.kind]}</p>{/if}
    </section>
  </div>

  <div class="mt-3 grid gap-x-8 border-t border-(--line) md:grid-cols-2">
    <div>
      <Fold name="School’s rules" value="{met} of {advice.gates.length} met">
        <RulesFold grounds={view} />
      </Fold>
      <Fold
        name={template?.joint.pipe ? 'By stage and place on the pipe' : 'By stage'}
        value="weakest: {elementName(advice.weakest)}"
      >
        {#if readiness.data}<div class="mx-auto max-w-96">
            <ChanceRings elements={readiness.data.elements} />
          </div>{/if}
      </Fold>
      <Fold
        name="What was said before"
        value={last
          ? `${decisionName(last.kind).toLowerCase()}, ${dayOf(last.signedAt, session.timeZone)}`
          : 'nothing signed yet'}
      >
        {#key view.studentId}<SaidBefore decisions={view.decisions} />{/key}
      </Fold>
      <Fold
        name="How the sitting came out"
        value={lastResult
          ? `${lastResult.passed ? 'passed' : 'not passed'}, ${shortDay(lastResult.day)}`
          : 'no sitting yet'}
      >
        {#key `${view.studentId} ${view.test.id}`}<ResultForm grounds={view} />{/key}
      </Fold>
    </div>
    <div>
      <Fold
        name="What would change the advice"
        value={advice.wouldChange.length === 0
          ? 'one rejected coupon'
          : `${advice.wouldChange.length} ${advice.wouldChange.length === 1 ? 'thing' : 'things'}`}
      >
        <ul class="list-disc pl-5">
          {#each advice.wouldChange as change (change)}<li>{change}</li>{/each}
          {#if oneMore}<li>{oneMore}</li>{/if}
        </ul>
      </Fold>
      <Fold
        name="Coupons behind this"
        value="{view.test.whole.coupons} whole, {view.test.whole.cleanCoupons} clean"
      >
        {#if readiness.data}<ChanceChart trace={readiness.data.trace} bar={view.policy.barMean} />{/if}
        <h3 class="eyebrow mt-3 mb-1">The last ones</h3>
        <CouponTable rows={view.recent} />
      </Fold>
      <Fold name="Behind the number" value="this test and earlier ones">
        <Reached studentId={view.studentId} testId={view.test.id} />
      </Fold>
      {#if template}
        <Fold
          name="Rules of the sitting"
          value={template.rules.holdPoints.length === 1
            ? '1 hold point'
            : `${template.rules.holdPoints.length} hold points`}
        >
          <ul class="list-disc pl-5">
            {#each rulesText(template.rules) as line (line)}<li>{line}</li>{/each}
          </ul>
        </Fold>
      {/if}
    </div>
  </div>
{/if}
