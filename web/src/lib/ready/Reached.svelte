<script lang="ts">
  import { reachedQuery } from '$lib/queries'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { dayAndYear } from '$lib/weeks'
  import { elementName, percent } from '$lib/words'
  import BandLine from './BandLine.svelte'

  let { studentId, testId }: { studentId: string; testId: string } = $props()
  const reached = reachedQuery(
    () => studentId,
    () => testId,
  )
  const view = $derived(reached.data)
  const coupons = (count: number) => `${count} ${count === 1 ? 'coupon' : 'coupons'}`
  const elsewhere = (day: string | null | undefined) =>
    day ? `, passed elsewhere on ${dayAndYear(day)}` : ''
  const sat = (count: number) => (count === 0 ? '' : `, ${count} ${count === 1 ? 'sitting' : 'sittings'}`)
  const rows = $derived(
    view
      ? [
          { name: 'Of anybody, before the first coupon', band: view.assumed },
          {
            name: view.loans.length === 0 ? 'No other test was practised' : `By the other tests alone`,
            band: view.lent,
          },
          {
            name: `By this test alone: ${view.ownClean} of ${coupons(view.ownCoupons)} clean${sat(view.ownSittings)}${elsewhere(view.ownElsewhere)}`,
            band: view.own,
          },
          { name: 'By all of it together', band: view.passing },
        ]
      : [],
  )
</script>

{#if !view}
  <Waiting error={reached.error} retry={() => reached.refetch()} what="Where it comes from" room="16rem" />
{:else}
  <ul class="grid gap-1">
    {#each rows as row (row.name)}
      <li class="grid grid-cols-[1fr_3.2rem_8rem] items-center gap-2">
        <span>{row.name}</span>
        <b class="number text-right text-xl">{percent(row.band.mean)}</b>
        <BandLine passing={row.band} />
      </li>
    {/each}
  </ul>
  {#if view.loans.length}
    <h3 class="eyebrow mt-3">What earlier tests lend</h3>
    <ul>
      {#each view.loans as loan (loan.testId)}
        <li class="border-t py-1.5 first:border-t-0">
          <strong
            ><span class="number">{loan.testId}</span>: {loan.coupons
              ? `${loan.clean} of ${coupons(loan.coupons)} clean`
              : 'no coupon here'}{sat(loan.sittings)}{elsewhere(loan.passedElsewhere)}</strong
          >{#if loan.element}; {elementName(loan.element)}
            {loan.elementClean} of the last {loan.elementSeen}{/if}. Without it {percent(loan.without.mean)}.
          <span class="text-(--soft)"
            >{loan.shares.length
              ? `In common: ${loan.shares.join(', ')}.`
              : 'In common: only the hand.'}</span
          >
        </li>
      {/each}
    </ul>
  {/if}
  <h3 class="eyebrow mt-3">Inside</h3>
  <p>
    {view.cutSound + view.cutFailed === 0
      ? 'None with this process and root was cut open'
      : `${view.cutSound} of ${view.cutSound + view.cutFailed} that were cut open with this process and root ${view.cutSound === 1 ? 'was' : 'were'} sound`}:
    {percent(view.inside.mean)} of those clean by eye are taken to be sound inside.
  </p>
  <h3 class="eyebrow mt-3">Assumed</h3>
  <p class="text-(--soft)">
    Each place of a joint has a start and what practice adds, shared with others of the same process, stage,
    pull of gravity, and pipe or plate. All places of a coupon share a good or a bad day. A result is now and
    then read wrongly. Coached coupons tell less, time off is forgotten a little. Before anything was cut
    open, nine of ten are taken to be sound.
  </p>
{/if}
