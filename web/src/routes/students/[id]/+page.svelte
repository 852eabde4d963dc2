<script lang="ts">
  import { page } from '$app/state'
  import { api, ask, type Schema } from '$lib/api/client'
  import { dayOf, moment } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import ChanceBand from '$lib/parts/ChanceBand.svelte'
  import EditStudent from '$lib/parts/EditStudent.svelte'
  import CouponTable from '$lib/parts/CouponTable.svelte'
  import PatternsView from '$lib/parts/PatternsView.svelte'
  import ReadinessPanel from '$lib/parts/ReadinessPanel.svelte'
  import StartCoupon from '$lib/parts/StartCoupon.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { patternsQuery, studentQuery } from '$lib/queries'
  import { session } from '$lib/session.svelte'
  import { chanceSentence, decisionName, percent, stageName } from '$lib/words'

  const id = $derived(page.params.id!)
  const student = studentQuery(() => id)
  const patterns = patternsQuery(() => id)
  let starting = $state(false)
  let editing = $state(false)
  let shownTest = $derived(student.data?.targetTestId)
  let older = $state<Schema['CouponRow'][]>([])
  let next = $state<string | null | undefined>(undefined)
  // Of each student their own.
  $effect.pre(() => {
    void id
    older = []
    next = undefined
    starting = editing = false
  })

  const rows = $derived([...(student.data?.coupons.rows ?? []), ...older])
  const before = $derived(next === undefined ? student.data?.coupons.next : next)
  const open = $derived(rows.find((row) => !row.closedAt))

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

<svelte:head><title>{student.data?.name ?? 'Student'} · Gradus</title></svelte:head>

{#if !student.data}
  <Waiting error={student.error} retry={() => student.refetch()} what="The student" />
{:else}
  {@const view = student.data}
  <div class="flex flex-wrap items-center gap-x-4 gap-y-2 pt-4 pb-3">
    <div class="min-w-0">
      <h1 class="text-3xl break-words">{view.name}</h1>
      <p class="text-(--soft)">
        {view.className}, {view.hand === 'left' ? 'left' : 'right'}-handed{view.note ? `. ${view.note}` : ''}
      </p>
    </div>
    <div class="ml-auto flex flex-wrap gap-2">
      {#if open}<a class="plate" href="/coupons/{open.id}"
          >Coupon in work: <span class="stamp">{open.stamp}</span></a
        >{/if}
      <button class="plate" onclick={() => (editing = true)}>Change</button>
      {#if !view.leftAt}<button class="lead" onclick={() => (starting = true)}>Start a coupon</button>{/if}
    </div>
  </div>

  {#if view.leftAt}
    <p class="mb-4 bg-(--caution-ground) px-4 py-2 font-semibold text-(--caution)">
      Left on {dayOf(view.leftAt, session.timeZone)}. The record stays, and counts nowhere; under Change a
      student comes back.
    </p>
  {/if}
  {#each view.tests as test (test.id)}
    <section
      class="sheet mb-4 border-l-8 p-4"
      style:border-left-color="var(--bronze)"
      aria-labelledby="test-{test.id}"
    >
      <div class="flex flex-wrap items-center gap-3">
        <h2 id="test-{test.id}" class="text-xl">
          <span class="number text-2xl">{test.id}</span>
          {test.title}
        </h2>
        {#if test.id === view.targetTestId}<span class="border px-2 text-sm font-semibold">Target</span>{/if}
        <a class="plate ml-auto" href="/students/{view.id}/decide/{test.id}">Decide</a>
      </div>
      <div class="mt-2 grid gap-6 lg:grid-cols-[1.1fr_1fr]">
        <div>
          <ChanceBand chance={test.whole} />
          <p class="mt-1">{chanceSentence(test.whole)}</p>
          {#if test.id === shownTest}
            <div class="mt-3"><ReadinessPanel studentId={view.id} testId={test.id} /></div>
          {:else}
            <button class="plate mt-2" onclick={() => (shownTest = test.id)}>Chance over time</button>
          {/if}
          <details class="mt-2">
            <summary class="cursor-pointer font-semibold">How this was reached</summary>
            <p class="mt-1 text-(--soft)">{test.method}</p>
          </details>
          {#if test.variants.length}
            <h3 class="eyebrow mt-3">Ways tried, full coupons that came out clean</h3>
            <ul>
              {#each test.variants as one (one.group)}
                {@const better = one.chanceBetter >= 0.5}
                <li class="border-t py-1 first:border-t-0">
                  {one.first} <span class="number">{one.firstClean} of {one.firstCoupons}</span>, {one.second}
                  <span class="number">{one.secondClean} of {one.secondCoupons}</span>:
                  <strong
                    >{percent(better ? one.chanceBetter : 1 - one.chanceBetter)} that {(better
                      ? one.first
                      : one.second
                    ).toLowerCase()} is better for {view.name.split(' ')[0]}</strong
                  >{Math.min(one.firstCoupons, one.secondCoupons) < 5 ? '; few coupons yet' : ''}.
                </li>
              {/each}
            </ul>
          {/if}
          {#if test.faults.length}
            <h3 class="eyebrow mt-3">Rejected for, in the last {test.faults[0]!.ofCoupons} closed coupons</h3>
            <ul>
              {#each test.faults as fault (`${fault.kind}-${fault.stage}`)}
                <li class="flex items-center gap-2">
                  <span class="number w-14 text-right text-xl">{fault.coupons} of {fault.ofCoupons}</span
                  >{fault.name}, {stageName(fault.stage).toLowerCase()}
                </li>
              {/each}
            </ul>
          {/if}
        </div>
        <div>
          <h3 class="eyebrow">
            By stage{test.weakest ? `: the ${stageName(test.weakest).toLowerCase()} is the weakest link` : ''}
          </h3>
          <ul>
            {#each test.stages as { stage, chance } (stage)}
              <li
                class="grid grid-cols-[4rem_1fr] items-center gap-2 border-t py-1 first:border-t-0"
                class:font-bold={stage === test.weakest}
              >
                <span>{stageName(stage)}</span>
                <ChanceBand {chance} slim />
              </li>
            {/each}
          </ul>
        </div>
      </div>
    </section>
  {/each}

  <section class="sheet mb-4 p-4" aria-labelledby="learn">
    <h2 id="learn" class="text-xl">What the coupons tell</h2>
    {#if patterns.data}
      <PatternsView
        patterns={patterns.data.patterns}
        worked={patterns.data.worked}
        name={view.name.split(' ')[0]}
      />
    {:else}
      <Waiting error={patterns.error} retry={() => patterns.refetch()} what="What the coupons tell" />
    {/if}
  </section>

  <div class="grid gap-6 xl:grid-cols-[1.6fr_1fr]">
    <section aria-labelledby="coupons">
      <h2 id="coupons" class="mb-2 text-xl">Coupons</h2>
      <CouponTable {rows} />
      {#if before}<button class="plate mt-2" onclick={more}>Older coupons</button>{/if}
    </section>
    <section aria-labelledby="decisions">
      <h2 id="decisions" class="mb-2 text-xl">Decisions</h2>
      {#each view.decisions as decision (decision.id)}
        <article class="sheet mb-2 p-3">
          <p>
            <strong>{decisionName(decision.kind)}</strong> <span class="number">{decision.testId}</span>, {dayOf(
              decision.signedAt,
              session.timeZone,
            )}
          </p>
          <p class="break-words">{decision.reason}</p>
          <p class="text-sm text-(--soft)">
            Signed {decision.signedBy}, {moment(decision.signedAt, session.timeZone)}. {chanceSentence(
              decision.whole,
            )}
          </p>
        </article>
      {:else}
        <p class="text-(--soft)">None signed yet.</p>
      {/each}
    </section>
  </div>
  <StartCoupon bind:open={starting} studentId={view.id} />
  <EditStudent bind:open={editing} student={view} />
{/if}
