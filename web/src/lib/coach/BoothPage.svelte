<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { changed } from '$lib/changed'
  import { codeOf } from '$lib/bench/coupon-words'
  import Timers from '$lib/bench/Timers.svelte'
  import JointSection from '$lib/drawings/JointSection.svelte'
  import { notices } from '$lib/notices.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { coachQuery, couponQuery } from '$lib/queries'
  import { outbox } from '$lib/outbox.svelte'
  import { DEAD_MS, logPass, NO_EXTRAS, takeBackPass, tellEvent } from '$lib/recording'
  import { session } from '$lib/session.svelte'
  import { timeOf } from '$lib/days'
  import Fold from '$lib/ui/Fold.svelte'
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { lengthText, units } from '$lib/units.svelte'
  import Coach from './Coach.svelte'
  import { say, type Said } from './say'

  /** The job of a student in the booth, read from two metres: what is next, how, and whom to call. */
  let { id }: { id: string } = $props()
  const CALL = 'Call'
  const client = useQueryClient()
  const query = couponQuery(() => id)
  const said = coachQuery(() => id)
  const coupon = $derived(query.data)
  const me = createQuery(() => ({ queryKey: ['student', 'me'], queryFn: () => ask(api.GET('/api/me')) }))
  let busy = $state(false)

  const waiting = $derived(outbox.passesOf(id))
  const laid = $derived(
    new Set([...(coupon?.beads ?? []).filter((bead) => bead.pass).map((bead) => bead.key), ...waiting]),
  )
  const next = $derived(coupon?.beads.find((bead) => !laid.has(bead.key)))
  const card = $derived(next && coupon ? coupon.cards[next.card] : undefined)
  // A fixed pipe is begun at the bottom, downhill at the top.
  const shown = $derived(
    (card?.progression === 'uphill' ? coupon?.sections.find((one) => one.at === '6') : undefined) ??
      coupon?.sections[0],
  )
  const section = $derived(shown?.section)
  const closed = $derived(coupon?.closedAt != null)
  const isFitted = $derived(coupon ? coupon.next.kind !== 'fitUp' : false)
  const isWire = $derived(card != null && card.process !== 'smaw' && card.process !== 'gtaw')
  const gap = $derived(coupon?.test.joint.rootOpeningMm ?? 0)
  const item = $derived(me.data?.today.find((one) => one.isNow) ?? me.data?.today[0])
  const holdsDue = $derived(coupon?.life.holdsDue ?? [])
  const called = $derived(coupon?.life.holds ?? [])
  const last = $derived(
    (coupon?.beads ?? [])
      .flatMap((one) => one.runs.map((run) => ({ bead: one, run })))
      .toSorted((a, b) => a.run.recordedAt.localeCompare(b.run.recordedAt))
      .at(-1),
  )
  const nameOf = (bead: Schema['BeadView']) => {
    const code = codeOf(coupon!, bead)
    return `${say(bead.stage as Said)} ${code === 'root' || code.startsWith('patch') ? '' : code}`.trim()
  }
  const lens = createQuery(() => ({
    queryKey: ['lens', card?.process, card?.amps],
    enabled: card != null,
    queryFn: () => ask(api.POST('/api/calc/lens', { body: { process: card!.process, amps: card!.amps } })),
    staleTime: Infinity,
  }))

  const refresh = () => changed(client, 'coupon')
  const tell = (kind: Schema['BenchEventKind'], body: Partial<Schema['BenchEventBody']>, says: string) =>
    tellEvent(id, kind, body, says, refresh)

  /** What a tap says once: the button names the next bead as soon as one is laid. */
  async function once(work: () => Promise<unknown>) {
    if (busy) return
    busy = true
    await notices.attempt(work)
    await refresh()
    setTimeout(() => (busy = false), DEAD_MS)
  }
  const log = () =>
    once(async () => {
      const bead = next!
      const passId = await logPass(id, bead.key, card!, { ...NO_EXTRAS }, null)
      notices.add(`${nameOf(bead)}: ${card!.amps} A`, 'done', async () => {
        await takeBackPass(id, passId)
        await refresh()
      })
    })
  const call = () => tell('holdCalled', { point: holdsDue[0] ?? CALL }, say('call'))
  const takeCallBack = (eventId: string) =>
    once(() =>
      ask(
        api.DELETE('/api/coupons/{couponId}/events/{id}', {
          params: { path: { couponId: id, id: eventId } },
        }),
      ),
    )
  const stageDone = $derived(
    coupon && next && last && last.bead.stage !== next.stage && holdsDue.length ? last.bead.stage : null,
  )
</script>

<svelte:head><title>{coupon ? `${coupon.stamp} · ${coupon.student.name}` : ''} · Gradus</title></svelte:head>

{#if !coupon || !section}
  <Waiting error={query.error} retry={() => query.refetch()} what="The coupon" />
{:else}
  <div class="flex items-center gap-4 border-b-2 border-(--steel-edge) py-2">
    {#if coupon.booth}<p
        class="number border-4 border-(--steel-edge) bg-(--sheet) px-4 text-5xl leading-[4rem]"
        aria-label="{say('booth')} {coupon.booth}"
      >
        {coupon.booth}
      </p>{/if}
    <div class="min-w-0 grow">
      <h1 class="text-2xl leading-tight [overflow-wrap:anywhere]">{coupon.student.name}</h1>
      <p class="leading-tight text-(--soft)">
        <span class="number text-xl text-(--ink)">{coupon.test.id}</span>
        {coupon.test.position}{item ? `. ${item.period}` : ''}, <span class="stamp">{coupon.stamp}</span>
      </p>
    </div>
    <p class="text-right leading-none">
      <span class="number text-4xl whitespace-nowrap"
        >{say('coupons_made', { made: laid.size, planned: coupon.beads.length })}</span
      >
    </p>
  </div>

  <div class="top">
    <div class="min-w-0">
      <p class="eyebrow pt-3">{say('today')}</p>
      <h2 class="text-[2.6rem] leading-[1.05]">
        {closed ? say('closed') : next ? nameOf(next) : say('look_now')}
      </h2>
      {#if item}<p class="pt-1 text-xl leading-snug">{item.name}. {item.why}</p>{/if}
      {#if !closed && !isFitted}
        <p class="pt-2 text-xl">
          {say('fit_up_first')} <a class="underline" href="/coupons/{id}?whole">{say('measure_fit_up')}</a>
        </p>
      {/if}
      {#each holdsDue as point (point)}
        <p class="mt-2 border-l-8 border-(--straw) bg-(--straw-ground) px-3 py-2 text-xl font-semibold">
          {say('waits_for', { point: said.data?.words[point] ?? point })}
        </p>
      {/each}
    </div>
    <div class="joint">
      <JointSection
        {section}
        {laid}
        own={new Set(coupon.beads.map((bead) => bead.key))}
        next={next?.key ?? null}
      />
    </div>
  </div>

  {#if card && next && !closed}
    <dl class="numbers">
      <div class="amps">
        <dd>{card.amps} A</dd>
        <dt>
          {say('card_range', { min: card.ranges.amps.min, max: card.ranges.amps.max })}; {card.clean
            ? say('settings_clean')
            : card.fromLast
              ? say('settings_own')
              : say('settings_card')}
        </dt>
      </div>
      <div>
        <dd>{card.electrodeClass}</dd>
        <dt>
          {units.unit === 'in' ? `${card.diameterText} in` : lengthText(card.diameterMm)}
          {isWire ? say('wire') : say('rod')}
        </dt>
      </div>
      <div>
        <dd>{card.polarity.toUpperCase()}</dd>
        <dt>{say('polarity')}</dt>
      </div>
      {#if next.stage === 'root' && gap > 0}
        <div>
          <dd>{lengthText(gap)}</dd>
          <dt>{say('gap')}</dt>
        </div>
      {/if}
      <div>
        <dd>{lens.data?.suggested ?? lens.data?.least ?? ''}</dd>
        <dt>{say('lens_shade')}</dt>
      </div>
    </dl>
    <Coach
      {coupon}
      bead={next}
      {card}
      {section}
      {laid}
      point={shown?.at ?? null}
      title={nameOf(next)}
      ontell={tell}
      large
    />
  {/if}

  <div class="pt-3">
    {#if !closed}<Fold
        name={say('timers')}
        value={coupon.life.timers.length ? String(coupon.life.timers.length) : ''}
        ><Timers {coupon} ontell={tell} /></Fold
      >{/if}
    <Fold name={say('own_way')} value={me.data?.targetTitle ?? ''}>
      <ol>
        {#each me.data?.steps ?? [] as step (step.test)}
          <li
            class="py-1 {step.state === 'now' ? 'font-bold' : step.state === 'ahead' ? 'text-(--soft)' : ''}"
          >
            <span class="number">{step.test}</span>
            {step.title}
          </li>
        {/each}
      </ol>
    </Fold>
    <Fold name={say('last_coupons')} value={String(me.data?.coupons.rows.length ?? 0)}>
      <ul>
        {#each (me.data?.coupons.rows ?? []).slice(0, 6) as row (row.id)}
          <li class="py-1">
            <a class="underline" href="/coupons/{row.id}?whole"><span class="number">{row.stamp}</span></a>
            {row.testId}, {row.closedAt == null
              ? say('open')
              : row.verdict === 'accept'
                ? say('clean')
                : say('not_clean')}
          </li>
        {/each}
      </ul>
    </Fold>
    <p class="flex flex-wrap gap-x-6 py-2">
      <a class="bare" href="/coupons/{id}?whole">{say('whole_page')}</a>
      <a class="bare" href="/">{say('my_page')}</a>
    </p>
    <p class="pb-28 text-sm text-(--soft)">
      {said.data?.safetyLine ?? ''}
    </p>
  </div>

  {#if !closed}
    <div class="thumb">
      {#if called[0]}
        <div class="flex grow items-center gap-3 bg-(--straw-ground) px-4 font-bold">
          <span class="grow text-xl"
            >{say('called', { since: timeOf(called[0].calledAt, session.timeZone) })}</span
          >
          <button class="plate" onclick={() => takeCallBack(called[0]!.eventId)}>{say('take_back')}</button>
        </div>
      {:else}
        <button class="lead big" disabled={busy} onclick={call}
          >{stageDone ? say('is_done', { stage: say(stageDone as Said) }) : say('call')}</button
        >
      {/if}
      {#if next && isFitted}
        <button class="plate big" disabled={busy} onclick={log}
          >{say('log_bead', { bead: nameOf(next) })}</button
        >
      {/if}
      <a class="plate big" href="/coupons/{id}?whole&finding">{say('found')}</a>
    </div>
  {/if}
{/if}

<style>
  .top {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    gap: 1.25rem;
  }
  .joint {
    height: 15rem;
    padding-top: 0.75rem;
  }
  .numbers {
    display: flex;
    flex-wrap: wrap;
    align-items: flex-end;
    gap: 0.25rem 1.5rem;
    margin: 0.75rem 0;
    border-block: 2px solid var(--line);
    padding: 0.5rem 0;
  }
  .numbers dd {
    font-family: var(--font-number);
    font-size: 2.6rem;
    font-weight: 600;
    line-height: 1;
    white-space: nowrap;
  }
  .numbers .amps dd {
    font-size: 4.6rem;
  }
  .numbers dt {
    color: var(--soft);
  }
  .thumb {
    position: fixed;
    z-index: 20;
    right: 0;
    bottom: 0;
    left: 0;
    display: flex;
    gap: 0.6rem;
    border-top: 2px solid var(--steel-edge);
    background: var(--sheet);
    padding: 0.6rem 1rem;
  }
  .thumb .big {
    display: flex;
    min-height: 80px;
    flex: 1;
    align-items: center;
    justify-content: center;
    font-size: 1.15rem;
    text-align: center;
  }
  .thumb .lead.big {
    flex: 1.6;
    font-size: 1.35rem;
  }
  @media (max-width: 560px) {
    .top {
      grid-template-columns: 1fr;
    }
    .joint {
      height: 11rem;
    }
    .numbers .amps dd {
      font-size: 3.6rem;
    }
    .numbers dd {
      font-size: 1.9rem;
    }
    .thumb {
      flex-wrap: wrap;
      padding: 0.5rem;
    }
    .thumb .big {
      min-height: 60px;
    }
    .thumb .lead.big {
      flex-basis: 100%;
    }
  }
</style>
