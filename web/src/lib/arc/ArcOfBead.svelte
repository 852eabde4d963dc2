<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { dayOf } from '$lib/days'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { session } from '$lib/session.svelte'
  import Fold from '$lib/ui/Fold.svelte'
  import ArcStrip from './ArcStrip.svelte'
  import { clockText, comparedRows, momentText } from './arc-words'

  type Props = { couponId: string; bead: Schema['BeadArcView'] }
  let { couponId, bead }: Props = $props()
  let chosen = $state(0)
  let beside = $state(false)

  const trace = $derived(bead.traces[Math.min(chosen, bead.traces.length - 1)]!)
  // What was measured is never changed.
  const pointsOf = (traceId: () => string | null) =>
    createQuery(() => ({
      queryKey: ['arc-points', traceId()],
      enabled: traceId() != null,
      staleTime: Infinity,
      queryFn: () =>
        ask(
          api.GET('/api/coupons/{couponId}/arcs/{traceId}/points', {
            params: { path: { couponId, traceId: traceId()! }, query: { most: 600 } },
          }),
        ),
    }))
  const points = pointsOf(() => (trace.hasPoints ? trace.id : null))
  const clean = $derived(bead.lastClean)
  const cleanPoints = pointsOf(() => (beside && clean?.hasPoints ? clean.traceId : null))
  const rows = $derived(comparedRows(bead.arc, clean?.arc ?? null))
  const reference = $derived(trace.runs.find((run) => run.referenceVolts != null)?.referenceVolts ?? null)
  const says = $derived(
    `Volts and current over ${clockText(trace.seconds)}. ` +
      (trace.best.length
        ? trace.best
            .map((one, at) => `${at + 1}, at ${clockText(one.atS)}: ${momentText(one, trace.runs)}`)
            .join('. ')
        : 'Nothing stands out.'),
  )
  const short = $derived(
    [
      `${clockText(bead.arc.arcSeconds)} of arc`,
      trace.best.length
        ? `${trace.best.length} ${trace.best.length === 1 ? 'moment' : 'moments'} to look at`
        : 'nothing stands out',
    ].join(', '),
  )
</script>

<section aria-label="The arc" class="mt-3 border-t pt-3">
  <p class="flex flex-wrap items-baseline gap-x-3">
    <span class="font-semibold">The arc</span><span class="text-(--soft)">{short}</span>
  </p>
  {#if bead.traces.length > 1}
    <div class="mt-1 flex flex-wrap gap-2" role="group" aria-label="Which arc">
      {#each bead.traces as one, at (one.id)}
        <button class="plate" aria-pressed={at === chosen} onclick={() => (chosen = at)}
          >Arc {at + 1}, {clockText(one.runs.reduce((sum, run) => sum + run.arcSeconds, 0))}</button
        >
      {/each}
    </div>
  {/if}
  {#if !trace.hasPoints}
    <p class="mt-1 text-(--soft)">
      What was measured was taken away by the rule of keeping; what was read stands.
    </p>
  {:else if points.data}
    <ArcStrip points={points.data} {says} moments={trace.best} referenceVolts={reference} />
  {:else}
    <Waiting error={points.error} retry={() => points.refetch()} what="What was measured" room="8rem" />
  {/if}
  {#if trace.best.length}
    <ol class="mt-1 grid gap-1">
      {#each trace.best as one, at (one.atS + one.what)}
        <li class="flex gap-2">
          <span class="number w-6 shrink-0 text-center text-(--straw-ink)" aria-hidden="true">{at + 1}</span>
          <span class="number w-12 shrink-0">{clockText(one.atS)}</span>
          <span>{momentText(one, trace.runs)}</span>
        </li>
      {/each}
    </ol>
  {/if}
  {#if bead.arc.lostSeconds > 0}
    <p class="mt-1 text-(--soft)">
      {bead.arc.lostSeconds.toFixed(1)} s were not received; they count as arc.
    </p>
  {/if}
  <Fold
    name="In numbers"
    value={clean
      ? `beside the last clean one, ${dayOf(clean.at, session.timeZone)}`
      : 'no clean one to hold beside'}
    bind:open={beside}
  >
    <table class="ledger w-full">
      <thead>
        <tr
          ><th class="text-left"></th><th class="text-right">This bead</th>{#if clean}<th class="text-right"
              >Clean, {clean.stamp}</th
            >{/if}</tr
        >
      </thead>
      <tbody>
        {#each rows as row (row.name)}
          <tr
            ><th class="text-left font-normal">{row.name}</th><td class="number text-right">{row.now}</td
            >{#if clean}<td class="number text-right">{row.then}</td>{/if}</tr
          >
        {/each}
      </tbody>
    </table>
    {#if cleanPoints.data && clean}
      <p class="mt-2 text-(--soft)">The clean one</p>
      <ArcStrip
        points={cleanPoints.data}
        says="Volts and current of the last clean bead, {clockText(clean.arc.arcSeconds)} of arc"
        height={96}
      />
    {/if}
    <p class="mt-2 text-sm text-(--soft)">
      {bead.ownVolts != null
        ? `A long arc is told by the ${bead.ownVolts.toFixed(1)} V of this student's own clean beads.`
        : 'A long arc is told by the card, or by the load line of the process until there are ten clean beads of one’s own.'}
      These are grounds, and no verdict.
      <a class="underline" href="/api/coupons/{couponId}/arcs/{trace.id}/file" download>The measurements</a>
    </p>
  </Fold>
</section>
