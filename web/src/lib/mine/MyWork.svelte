<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask } from '$lib/api/client'
  import ChanceBand from '$lib/parts/ChanceBand.svelte'
  import HeldList from '$lib/holds/HeldList.svelte'
  import { rulesText } from '$lib/library/text'
  import CouponTable from '$lib/parts/CouponTable.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { session } from '$lib/session.svelte'
  import { moment } from '$lib/days'
  import Fold from '$lib/ui/Fold.svelte'
  import Mark from '$lib/ui/Mark.svelte'
  import { longDay } from '$lib/weeks'
  import { chanceSentence } from '$lib/words'

  const MARKS = {
    behind: { of: 'done', label: 'behind you' },
    now: { of: 'next', label: 'you are here' },
    ahead: { of: 'open', label: 'to come' },
  } as const
  const REFRESH_MS = 60_000
  const me = createQuery(() => ({
    queryKey: ['student', 'me'],
    queryFn: () => ask(api.GET('/api/me')),
    refetchInterval: REFRESH_MS,
  }))
  const view = $derived(me.data)
  const done = $derived((view?.steps ?? []).filter((one) => one.state === 'behind').length)
</script>

<svelte:head><title>My work · Gradus</title></svelte:head>

{#if !view}
  <Waiting error={me.error} retry={() => me.refetch()} what="Your page" />
{:else}
  <div class="flex flex-wrap items-baseline gap-x-5 gap-y-1 pt-3 pb-2">
    <h1 class="text-3xl [overflow-wrap:anywhere]">{view.name}</h1>
    <p class="text-(--soft)">{view.className}; on the way to {view.targetTestId}, {view.targetTitle}</p>
  </div>
  {#if !view.safetySignedAt}
    <p class="mb-3 border-l-4 border-(--caution) px-3 text-lg font-semibold">
      Your safety is not signed off. Ask an instructor before you strike an arc.
    </p>
  {/if}
  {#if view.held.length || view.sittings.length}
    <div class="mb-3 grid items-start gap-3 lg:grid-cols-2">
      {#if view.sittings.length}
        <section class="sheet border-l-4 border-(--straw) p-3" aria-label="Your sittings">
          {#each view.sittings as one (one.row.id)}
            <h2 class="text-xl">
              You sit {one.row.testId} on {longDay(one.row.day)}, {one.row.periodName.toLowerCase()}
            </h2>
            <p>
              {one.row.booth ? `Booth ${one.row.booth}` : 'The booth is said on the day'}{one.row.inspector
                ? `, before ${one.row.inspector}`
                : ''}{one.procedure ? `; ${one.procedure}` : ''}.
            </p>
            <Fold name="Rules of your sitting" value="read them before the day">
              <ul class="list-disc pl-5">
                {#each rulesText(one.rules) as line (line)}<li>{line}</li>{/each}
                <li>Cut: {one.specimens.join(', ').toLowerCase() || 'nothing'}</li>
              </ul>
            </Fold>
          {/each}
        </section>
      {/if}
      {#if view.held.length}
        <section class="sheet p-3" aria-label="What you hold">
          <h2 class="text-xl">What you hold</h2>
          <HeldList held={view.held} />
        </section>
      {/if}
    </div>
  {/if}
  <div class="grid items-start gap-3 lg:grid-cols-2">
    <section class="sheet p-3" aria-label="Now">
      <h2 class="text-xl">{view.open ? 'In work' : 'Today'}</h2>
      {#if view.open}
        <p class="mt-1 text-lg">
          <span class="number">{view.open.stamp}</span>
          {view.open.testTitle}{view.open.booth ? `, booth ${view.open.booth}` : ''}
        </p>
        <p class="text-(--soft)">{view.open.beadsLaid} of {view.open.beadsPlanned} beads laid.</p>
        <a class="lead mt-2 inline-flex" href="/coupons/{view.open.id}">Go on with it</a>
      {/if}
      <ul class="mt-3 flex flex-col gap-2">
        {#each view.today as one (`${one.period} ${one.name}`)}
          <li class="border-l-4 px-3 {one.isNow ? 'border-(--bronze)' : 'border-(--steel-edge)'}">
            <p class="eyebrow">{one.period}, booth {one.booth}{one.isNow ? ', now' : ''}</p>
            <p class="text-lg">{one.name}</p>
            <p class="text-(--soft)">{one.why}</p>
          </li>
        {:else}
          {#if !view.open}<li>Nothing is planned for you today. Ask your instructor what comes next.</li>{/if}
        {/each}
      </ul>
    </section>
    <section class="sheet p-3" aria-label="Your steps">
      <h2 class="text-xl">
        Your steps <span class="text-base text-(--soft)">{done} of {view.steps.length} behind you</span>
      </h2>
      <ol class="mt-2">
        {#each view.steps as step (step.test)}
          <li class="flex items-center gap-3 border-t py-1.5 first:border-t-0">
            <Mark {...MARKS[step.state]} />
            <span class="number w-10 shrink-0">{step.test}</span>
            <span class="min-w-0 break-words">{step.title}{step.isTarget ? ' (your goal)' : ''}</span>
          </li>
        {/each}
      </ol>
      {#if view.chance}
        <div class="mt-3 border-t pt-2">
          <p class="eyebrow">Your chance of a clean {view.targetTestId} now</p>
          <ChanceBand chance={view.chance} />
          <p>{chanceSentence(view.chance)}</p>
        </div>
      {/if}
      {#if view.safetySignedAt}
        <p class="mt-3 border-t pt-2 text-sm text-(--soft)">
          Safety signed off {moment(view.safetySignedAt, session.timeZone)}.
        </p>
      {/if}
    </section>
  </div>
  <section class="mt-4" aria-label="Your coupons">
    <h2 class="text-xl">Your coupons</h2>
    <CouponTable rows={view.coupons.rows} />
  </section>
  {#if session.view?.person}
    {@const file = `/api/students/${session.view.person.id}/file`}
    <p class="mt-4 text-sm text-(--soft)">
      All that the school keeps of you is yours to take along:
      <a class="underline" href="{file}.pdf" download>on paper</a>, or
      <a class="underline" href="{file}.json" download>every entry, for machines</a>.
    </p>
  {/if}
{/if}
