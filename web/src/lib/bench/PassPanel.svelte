<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import type { PassExtras, Run } from '$lib/recording'
  import { lengthText, units } from '$lib/units.svelte'
  import { beadName, processName } from '$lib/words'
  import BeadPlanRow from './BeadPlanRow.svelte'
  import LaidPass from './LaidPass.svelte'
  import PassNotes from './PassNotes.svelte'
  import PassSettings from './PassSettings.svelte'
  import RunMeasures from './RunMeasures.svelte'
  import RunPanel from './RunPanel.svelte'

  type Props = {
    coupon: Schema['CouponView']
    bead: Schema['BeadView']
    card: Schema['PassCard']
    busy: boolean
    /** What is noted with the pass beside its settings. */
    extras: PassExtras
    /** Which end of the pass the next tap on the drawing is for. */
    marking: 'startAt' | 'stopAt' | null
    onchange: (card: Schema['PassCard']) => void
    onlog: () => void
    onrun: (run: Run) => void
    onsafety: () => void
    ontell: (kind: Schema['BenchEventKind'], body: Partial<Schema['BenchEventBody']>, says: string) => void
    ontakeback: (passId: string) => void
    onfinding: () => void
  }
  let {
    coupon,
    bead,
    card,
    busy,
    extras = $bindable(),
    marking = $bindable(),
    onchange,
    onlog,
    onrun,
    onsafety,
    ontell,
    ontakeback,
    onfinding,
  }: Props = $props()
  const lens = createQuery(() => ({
    queryKey: ['lens', card.process, card.amps],
    queryFn: () => ask(api.POST('/api/calc/lens', { body: { process: card.process, amps: card.amps } })),
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  }))

  const closed = $derived(coupon.closedAt != null)
  // On fixed pipe a bead by its sides is the default; a tap folds the runs away, or opens them elsewhere.
  let inRuns = $state<boolean | null>(null)
  let more = $state(false)
  let asking = $state<Run | 'whole' | null>(null)
  const byRuns = $derived((inRuns ?? bead.runsLeft.length > 1) || bead.runs.length > 0)

  // Under the rules of a test: what has to be done before this pass. A temperature that is noted here settles its own.
  const heat = $derived(coupon.test.temperatures)
  const concerns = $derived([
    ...coupon.life.concerns.filter(
      (one) => !(one.concern === 'preheat' && (extras.interpassC ?? -Infinity) >= (heat?.preheatMinC ?? 0)),
    ),
    ...(coupon.asTest && extras.interpassC != null && extras.interpassC > (heat?.interpassMaxC ?? Infinity)
      ? [
          {
            concern: 'interpass' as const,
            says: `${extras.interpassC} °C; let it cool under ${heat!.interpassMaxC} °C.`,
          },
        ]
      : []),
  ])

  const pointOf = (says: string) => coupon.life.holdsDue.find((point) => says.startsWith(`${point}:`))

  function lay(run: Run | 'whole') {
    if (concerns.length && asking == null) {
      asking = run
      return
    }
    asking = null
    if (run === 'whole') onlog()
    else onrun(run)
  }
</script>

<h2 class="text-xl">{beadName(bead)}</h2>
{#if bead.pass}
  {#each bead.runs as run (run.id)}
    <LaidPass pass={run} product={coupon.test.product} />
    {#if !closed}
      <div class="mt-3 flex gap-2">
        <button class="plate" onclick={() => ontakeback(run.id)}>Take it back</button>
        <button class="plate" onclick={onfinding}>Add a finding</button>
      </div>
    {/if}
  {/each}
  {#if !closed}<BeadPlanRow {coupon} {bead} {ontell} />{/if}
{:else if closed}
  <p class="mt-1">Not laid.</p>
{:else}
  <p class="mt-1">
    <span class="number text-xl">{processName(card.process)} {card.electrodeClass}</span>
    <span class="number text-lg"
      >{units.unit === 'in' ? `${card.diameterText} in` : lengthText(card.diameterMm)}, {card.polarity.toUpperCase()}{card.gas
        ? `, ${card.gas}`
        : ''}</span
    >
    <span class="text-(--soft)"
      >{card.clean
        ? `clean in ${card.clean.cleanPasses} of ${card.clean.passes} passes${card.sameBooth ? ' in this booth' : ''}`
        : card.fromLast
          ? 'as last time'
          : 'from the test'}</span
    >
  </p>
  {#each asking == null ? coupon.life.holdsDue : [] as point (point)}
    <div class="mt-2 flex flex-wrap items-center gap-2 border-l-4 border-(--bronze) px-3 py-1">
      <span class="grow font-semibold">Hold point before this pass: {point.toLowerCase()}</span>
      <button class="plate" onclick={() => ontell('holdAnswered', { point, go: true }, `${point}: go on.`)}
        >Seen, go on</button
      >
    </div>
  {/each}
  {#if asking != null}
    <div
      class="mt-2 border-l-4 border-(--caution) bg-(--caution-ground) px-3 py-2"
      role="alertdialog"
      aria-label="Before this pass"
    >
      <ul>
        {#each concerns as one (one.concern + one.says)}
          <li class="flex flex-wrap items-center gap-2 py-0.5">
            <span class="grow font-semibold">{one.says}</span>
            {#if one.concern === 'holdPoint' && pointOf(one.says)}
              {@const point = pointOf(one.says)!}
              <button
                class="plate"
                onclick={() => ontell('holdAnswered', { point, go: true }, `${point}: go on.`)}
                >Seen, go on</button
              >
            {:else if one.concern === 'purge'}
              <button
                class="plate"
                onclick={() =>
                  ontell(
                    'timerStarted',
                    { timer: 'purge', minutes: Math.ceil(coupon.life.purgeMinutes * 10) / 10 },
                    'The purge runs.',
                  )}>Start the purge</button
              >
            {:else if one.concern === 'safety'}
              <button class="plate" onclick={() => onsafety()}>Sign it off</button>
            {:else if one.concern === 'position'}
              <button class="plate" onclick={() => ontell('positionWitnessed', {}, 'Position witnessed.')}
                >Witnessed</button
              >
            {:else if one.concern === 'sittingTimer'}
              <button
                class="plate"
                onclick={() =>
                  ontell(
                    'timerStarted',
                    { timer: 'sitting', minutes: coupon.test.rules.timeLimitMinutes },
                    'The sitting runs.',
                  )}>Start it</button
              >
            {/if}
          </li>
        {:else}
          <li>All of it is done.</li>
        {/each}
      </ul>
      <div class="mt-1 flex flex-wrap gap-2">
        <button class="plate" disabled={busy} onclick={() => lay(asking!)}
          >{concerns.length ? 'Go on anyway: it counts as coached' : 'Log it now'}</button
        >
        <button class="plate" onclick={() => (asking = null)}>Not yet</button>
      </div>
    </div>
  {:else}
    <div class="mt-2 grid grid-cols-2 gap-2">
      <button
        class="lead flex-col gap-0 text-lg"
        disabled={busy || bead.runs.length > 0}
        onclick={() => lay('whole')}
        >Log it clean<span class="text-sm font-normal">{beadName(bead).toLowerCase()}</span></button
      >
      <button class="plate text-lg" onclick={onfinding}>Add a finding</button>
    </div>
    <div class="mt-2 flex flex-wrap gap-2">
      <button class="plate px-3" aria-expanded={byRuns} onclick={() => (inRuns = !byRuns)}>In runs</button>
      <button class="plate px-3" aria-expanded={more} onclick={() => (more = !more)}>Beads</button>
    </div>
  {/if}
  {#if byRuns && asking == null}
    <RunPanel
      {coupon}
      {bead}
      {card}
      {extras}
      {busy}
      onrun={lay}
      onhand={(hand) => onchange({ ...card, hand })}
      {ontakeback}
    />
  {/if}
  {#if more}<BeadPlanRow {coupon} {bead} {ontell} />{/if}
  <PassSettings {card} {onchange} />
  <PassNotes {coupon} bind:extras bind:marking />
  <RunMeasures {coupon} {bead} bind:measured={extras.measured} />
  {#if card.note}<p class="mt-3 border-l-4 pl-3 text-(--soft)" style:border-left-color="var(--straw)">
      {card.note}
    </p>{/if}
  {#if lens.data}
    <p class="mt-2 text-sm font-semibold text-(--caution)">
      At {card.amps} A: lens shade {lens.data.least} at least{lens.data.suggested
        ? `, ${lens.data.suggested} suggested`
        : ''}.
    </p>
  {/if}
  {#if coupon.fitUp.outcome === 'mend' || coupon.fitUp.outcome === 'open'}
    <p class="mt-3 font-semibold text-(--caution)">
      {coupon.fitUp.outcome === 'mend'
        ? 'The fit-up still needs mending.'
        : 'The fit-up is not all checked yet.'}
    </p>
  {/if}
{/if}
