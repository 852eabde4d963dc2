<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import type { Tell } from '$lib/bench/coupon-words'
  import { coachQuery } from '$lib/queries'
  import Fold from '$lib/ui/Fold.svelte'
  import Mark from '$lib/ui/Mark.svelte'
  import { inUnits, lengthText } from '$lib/units.svelte'
  import CoachStrip from './CoachStrip.svelte'
  import Preflight from './Preflight.svelte'
  import { say } from './say'

  /** What the coach says beside a bead: what is asked before the arc, how it is laid, what the gap and the level ask for. */
  type Props = {
    coupon: Schema['CouponView']
    bead: Schema['BeadView']
    card: Schema['PassCard']
    section: Schema['JointSection']
    laid: Set<string>
    /** The place that is looked at: on fixed pipe it says the zone. */
    point: string | null
    title: string
    ontell: Tell
    large?: boolean
  }
  let { coupon, bead, card, section, laid, point, title, ontell, large = false }: Props = $props()

  const query = coachQuery(() => coupon.id)
  const coach = $derived(query.data)
  const of = $derived(coach?.beads[bead.key])
  const shown = $derived(of && coach ? coach.cards[(point ? of.zones[point] : null) ?? of.card] : undefined)
  const shownCautions = $derived(large ? 2 : 1)
  let all = $state(false)
  const cautions = $derived(of?.cautions ?? [])
  // Where it asks for something; where nothing does, the tightest place.
  const gaps = $derived.by(() => {
    const all = bead.stage === 'root' ? (coach?.gap?.points ?? []) : []
    const asking = all.filter((one) => one.now?.verdict !== 'goOn' || one.end?.verdict !== 'goOn')
    return asking.length ? asking : all.toSorted((a, b) => a.endMm - b.endMm).slice(0, 1)
  })
  const level = $derived(bead.stage === 'cap' ? coach?.level : null)
  const answer = (no: string[]) =>
    ontell('preflight', { beadKey: bead.key, no }, no.length ? say('mend_first') : say('before_arc'))
</script>

{#if coach && of}
  {#if cautions.length && !bead.pass}
    <ul class="cautions" aria-label={say('cautions')} class:large>
      {#each all ? cautions : cautions.slice(0, shownCautions) as caution (caution)}
        <li><Mark of="caution" /><span>{inUnits(caution)}</span></li>
      {/each}
      {#if !all && cautions.length > shownCautions}
        <li>
          <button class="bare" onclick={() => (all = true)}
            >{say('more_cautions', { count: cautions.length - shownCautions })}</button
          >
        </li>
      {/if}
    </ul>
  {/if}
  {#if coach.silent}
    <p class="py-2 text-(--soft)">{say('under_test')}</p>
  {:else if shown}
    {#if of.mend.length}
      <div class="mt-2 border-l-8 border-(--straw) bg-(--straw-ground) px-3 py-2" role="alert">
        <p class="font-semibold">{say('mend_first')}</p>
        <ul class="list-disc pl-5">
          {#each of.mend as one (one)}<li>{inUnits(one)}</li>{/each}
        </ul>
        <button class="plate mt-2" onclick={() => answer([])}>{say('mended')}</button>
      </div>
    {:else}
      {#if of.preflight.length && !bead.pass}
        <div class="py-2">
          {#key bead.key}<Preflight asks={of.preflight} onanswer={answer} />{/key}
        </div>
      {/if}
      <section aria-label={say('coach_for', { bead: title })}>
        <p class="pb-1 font-semibold text-(--soft)">
          {say('coach_for', { bead: title })}: {shown.name}
        </p>
        <CoachStrip
          card={shown}
          last={of.last ?? null}
          bead={bead.key}
          {section}
          {laid}
          progression={card.progression}
          {large}
        />
        {#if level}
          <p class="mt-2 border-l-4 border-(--straw) pl-3">
            <strong>{say('before_cap')}:</strong>
            {inUnits(level.says)}. {say('cap_beads', { count: level.capBeads })}
          </p>
        {/if}
        {#each gaps as gap (gap.at)}
          <p
            class="mt-1 border-l-4 pl-3 {gap.end?.verdict === 'goOn'
              ? 'border-(--steel-edge)'
              : 'border-(--straw)'}"
          >
            <strong>{say('gap_at', { at: gap.at })}:</strong>
            {lengthText(gap.gapMm)}{gap.now ? `, ${inUnits(gap.now.says).toLowerCase()}` : ''};
            {say('gap_ends_at', { gap: lengthText(gap.endMm) })}{gap.end &&
            gap.end.verdict !== gap.now?.verdict
              ? `: ${inUnits(gap.end.says).toLowerCase()}`
              : ''}
          </p>
        {/each}
        <Fold name={say('stop_and_go_on')} value={inUnits(of.restart.strike)}>
          <dl class="grid gap-x-6 gap-y-1 sm:grid-cols-2">
            {#each [[say('stop'), of.restart.stop], [say('dress'), of.restart.dress], [say('strike'), of.restart.strike], [say('go_on'), of.restart.goOn], [say('first_mistakes'), shown.mistakes], [say('looks_right'), shown.right], [say('body'), shown.body]].filter((row): row is [string, string] => !!row[1]) as [name, text] (name)}
              <div>
                <dt class="eyebrow">{name}</dt>
                <dd>{inUnits(text)}</dd>
              </div>
            {/each}
          </dl>
          {#if coach.side && bead.stage !== 'fitUp'}<p class="pt-2">{coach.side.says}</p>{/if}
        </Fold>
        {#if bead.stage === 'root' || bead.stage === 'hot'}
          <Fold name={say('burn_through')} value={inUnits(coach.burnThrough[0] ?? '')}>
            <ol class="list-decimal pl-6">
              {#each coach.burnThrough as step (step)}<li>{inUnits(step)}</li>{/each}
            </ol>
          </Fold>
        {/if}
      </section>
    {/if}
  {/if}
{/if}

<style>
  .cautions li {
    display: flex;
    align-items: flex-start;
    gap: 0.5rem;
    padding: 0.1rem 0;
    color: var(--caution);
    font-weight: 600;
    line-height: 1.35;
  }
  .cautions.large {
    border-left: 8px solid var(--caution);
    background: var(--caution-ground);
    padding: 0.5rem 0.75rem;
    font-size: 1.15rem;
  }
</style>
