<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import type { PassExtras, Run } from '$lib/recording'
  import { timeOf } from '$lib/days'
  import { session } from '$lib/session.svelte'
  import Fold from '$lib/ui/Fold.svelte'
  import Mark from '$lib/ui/Mark.svelte'
  import Notice from '$lib/ui/Notice.svelte'
  import NextFrame from '$lib/ui/NextFrame.svelte'
  import ThumbBar from '$lib/ui/ThumbBar.svelte'
  import { degreesText, inUnits, lengthText, units } from '$lib/units.svelte'
  import { percent, processName, spaced, stageName, techniqueName, timerName } from '$lib/words'
  import Calls from './Calls.svelte'
  import Timers from './Timers.svelte'
  import { actNameOf, besideOf, codeOf, type Tell } from './coupon-words'
  import { placeText, stretchText } from './pass-words'
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
    ontell: Tell
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
  let settings = $state(false)
  let notes = $state(false)
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
            says: `${degreesText(extras.interpassC)}; let it cool under ${degreesText(heat!.interpassMaxC!)}.`,
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

  const isNext = $derived(coupon.next.beadKey === bead.key)
  const code = $derived(codeOf(coupon, bead))
  const title = $derived(
    bead.patch ? `Patch ${bead.beadInLayer}` : code === 'root' ? 'Root' : `${stageName(bead.stage)} ${code}`,
  )
  const ORDINALS = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth']
  const beside = $derived(besideOf(coupon, bead))
  const where = $derived(
    [
      bead.patch ? 'in a low place before the cap' : `layer ${bead.layer}`,
      beside > 1 && !bead.patch ? `${ORDINALS[bead.beadInLayer - 1] ?? bead.beadInLayer} of ${beside}` : '',
      bead.half ? `${spaced(bead.half)} half` : '',
      card.clean
        ? `clean at this in ${card.clean.cleanPasses} of ${card.clean.passes}${card.sameBooth ? ' in this booth' : ''}`
        : card.fromLast
          ? 'set as last time'
          : '',
      card.clean?.atArc
        ? `${Math.round(card.clean.atArc.amps)} A and ${card.clean.atArc.volts.toFixed(1)} V at the arc`
        : '',
    ]
      .filter(Boolean)
      .join(', '),
  )
  const off = $derived(card.clean?.atArc?.offShare)
  const offCard = $derived(card.amps < card.ranges.amps.min || card.amps > card.ranges.amps.max)
  const last = $derived(
    coupon.beads
      .flatMap((one) => one.runs.map((run) => ({ bead: one, run })))
      .toSorted((a, b) => a.run.recordedAt.localeCompare(b.run.recordedAt))
      .at(-1),
  )

  // What a fold holds, so that it need not be opened.
  const settingsSay = $derived(
    [
      card.progression === 'none' ? '' : card.progression,
      techniqueName(card.technique).toLowerCase(),
      `${card.hand} hand`,
    ]
      .filter(Boolean)
      .join(', '),
  )
  const notesSay = $derived(
    [
      extras.belowFlushMm != null ? `${lengthText(extras.belowFlushMm)} below flush` : '',
      extras.interpassC != null ? degreesText(extras.interpassC) : '',
      extras.startAt != null ? `from ${placeText(extras.startAt, coupon.test.product)}` : '',
      extras.stopAt != null ? `to ${placeText(extras.stopAt, coupon.test.product)}` : '',
    ]
      .filter(Boolean)
      .join(', ') || 'none noted',
  )
  const runsSay = $derived(
    bead.runs.length
      ? `${bead.runs.length} laid`
      : bead.runsLeft.length > 1
        ? `${bead.runsLeft.length} by sides`
        : bead.runsLeft[0]
          ? stretchText(
              bead.runsLeft[0].from,
              bead.runsLeft[0].to,
              bead.runsLeft[0].side,
              coupon.test.product,
            )
          : '',
  )
</script>

<div class="flex flex-wrap items-end justify-between gap-x-6 gap-y-1">
  <div>
    <p class="eyebrow">{bead.pass ? 'Laid' : closed ? 'Not laid' : isNext ? 'Next bead' : 'Not laid yet'}</p>
    <h2 class="text-[2.4rem] leading-none">{title}</h2>
    <p class="pt-1 text-(--soft)">{where}</p>
  </div>
  {#if !bead.pass && !closed}
    <dl class="facts">
      <div>
        <dt>card {card.ranges.amps.min} to {card.ranges.amps.max}</dt>
        <dd class="amps" class:text-(--caution)={offCard}>
          <button aria-label="{card.amps} A: settings" onclick={() => (settings = !settings)}
            >{card.amps} A</button
          >
        </dd>
      </div>
      <div>
        <dt>{processName(card.process)}</dt>
        <dd>
          {card.electrodeClass}
          {units.unit === 'in' ? card.diameterText : lengthText(card.diameterMm)}
        </dd>
      </div>
      <div>
        <dt>polarity</dt>
        <dd>{card.polarity.toUpperCase()}</dd>
      </div>
      <!-- Its place is kept, so that nothing moves when the answer comes. -->
      <div class:invisible={!lens.data}>
        <dt>lens shade</dt>
        <dd aria-label="shade {lens.data?.least} at least">
          {lens.data?.suggested ?? lens.data?.least}
        </dd>
      </div>
    </dl>
  {/if}
</div>

{#if bead.pass}
  {#each bead.runs as run (run.id)}
    <LaidPass pass={run} product={coupon.test.product} />
    {#if !closed}
      <div class="mt-3 flex gap-4">
        <button class="plate" onclick={onfinding}>Add a finding</button>
        <button class="bare" onclick={() => ontakeback(run.id)}>Take it back</button>
      </div>
    {/if}
  {/each}
  {#if !closed}<BeadPlanRow {coupon} {bead} {ontell} />{/if}
{:else if !closed}
  {#if off != null}
    <p class="flex items-start gap-2 pt-3 text-(--straw-ink)">
      <Mark of="next" />The machine gives {percent(Math.abs(off))}
      {off < 0 ? 'less' : 'more'} than it is set to, by {card.clean!.atArc!.passes} measured beads. Set it by what
      burns; have it checked.
    </p>
  {/if}
  {#if coupon.fitUp.outcome === 'mend' || coupon.fitUp.outcome === 'open'}
    <p class="flex items-start gap-2 pt-3 font-semibold text-(--straw-ink)">
      <Mark of="next" />{coupon.fitUp.outcome === 'mend'
        ? 'The fit-up still needs mending.'
        : 'The fit-up is not all checked yet.'}
    </p>
  {/if}
  {#each asking == null ? coupon.life.holdsDue : [] as point (point)}
    <div class="mt-3">
      <Notice tone="waits">
        Before this pass: <strong>{point.toLowerCase()}</strong>
        {#snippet acts()}
          <button
            class="plate"
            onclick={() => ontell('holdAnswered', { point, go: true }, `${point}: go on.`)}
            >Seen, go on</button
          >
        {/snippet}
      </Notice>
    </div>
  {/each}
  {#if asking != null}
    <div
      class="mt-3 border-l-8 border-(--straw) bg-(--straw-ground) px-3 py-2"
      role="alertdialog"
      aria-label="Before this pass"
    >
      <ul>
        {#each concerns as one (one.concern + one.says)}
          <li class="flex flex-wrap items-center gap-2 py-0.5">
            <span class="grow font-semibold">{inUnits(one.says)}</span>
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
  {/if}
  <div class="pt-4">
    <ThumbBar>
      {#if asking == null}
        <button class="lead" disabled={busy || bead.runs.length > 0} onclick={() => lay('whole')}
          >Log {actNameOf(coupon, bead)} clean</button
        >
      {/if}
      <button class="plate" onclick={onfinding}>Add a finding</button>
      {#if last}
        <button class="plate flex-col gap-0" disabled={busy} onclick={() => ontakeback(last.run.id)}
          ><span>Undo {actNameOf(coupon, last.bead)}</span><span class="number text-base text-(--soft)"
            >{last.run.amps} A, {timeOf(last.run.recordedAt, session.timeZone)}</span
          ></button
        >
      {/if}
    </ThumbBar>
  </div>
  <NextFrame>
    <div class="grid gap-x-8 pt-3 sm:max-lg:grid-cols-2">
      {#if asking == null && (bead.runsLeft.length || bead.runs.length)}
        <div class="sm:max-lg:col-span-2">
          <Fold name="In runs" value={runsSay} bind:open={() => byRuns, (open) => (inRuns = open)}>
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
          </Fold>
        </div>
      {/if}
      <Fold name="Settings" value={settingsSay} bind:open={settings}><PassSettings {card} {onchange} /></Fold>
      <Fold name="Depth, heat, start and stop" value={notesSay} bind:open={notes}
        ><PassNotes {coupon} bind:extras bind:marking /></Fold
      >
      <RunMeasures {coupon} {bead} bind:measured={extras.measured} />
      <Fold
        name="Timers"
        value={coupon.life.timers.length
          ? coupon.life.timers.map((one) => timerName(one.timer).toLowerCase()).join(', ')
          : 'none runs'}><Timers {coupon} {ontell} /></Fold
      >
      <Fold
        name="Calls"
        value={coupon.life.holds.length
          ? `called: ${coupon.life.holds.map((one) => one.point.toLowerCase()).join(', ')}`
          : coupon.life.holdsDue.length
            ? `next: ${coupon.life.holdsDue[0]!.toLowerCase()}`
            : 'none due'}><Calls {coupon} {ontell} /></Fold
      >
      <Fold name="Beads" value="{coupon.beads.length} in all"><BeadPlanRow {coupon} {bead} {ontell} /></Fold>
    </div>
  </NextFrame>
{/if}

<style>
  .facts {
    display: flex;
    flex-wrap: wrap;
    align-items: flex-end;
    gap: 0.2rem 1.1rem;
  }
  .facts div {
    display: flex;
    flex-direction: column-reverse;
  }
  .facts dt {
    color: var(--soft);
    font-size: 0.89rem;
  }
  .facts dd {
    font-family: var(--font-number);
    font-size: 1.6rem;
    font-weight: 600;
    font-variant-numeric: tabular-nums;
    line-height: 1.05;
  }
  .facts button {
    min-height: 48px;
  }
  .facts .amps {
    font-size: 2.6rem;
    line-height: 0.95;
  }
</style>
