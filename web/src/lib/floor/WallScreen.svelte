<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import SectionSketch from '$lib/drawings/SectionSketch.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import WaitClock from '$lib/ui/WaitClock.svelte'
  import { longDay } from '$lib/weeks'
  import { beadCode } from '$lib/words'

  // A wall is looked at in passing: what is a few seconds old is new enough.
  const REFRESH_MS = 5_000
  const wall = createQuery(() => ({
    queryKey: ['wall'],
    queryFn: () => ask(api.GET('/api/wall')),
    refetchInterval: REFRESH_MS,
  }))
  const late = $derived(wall.failureCount > 0 || wall.isError)
  const view = $derived(wall.data)
  const across = $derived(Math.max(0, ...(view?.booths ?? []).map((booth) => booth.column)) + 1)
  const laidOut = $derived(
    across <= 8 &&
      new Set(view?.booths.map((one) => `${one.column} ${one.row}`)).size === view?.booths.length,
  )
  /** A row in which somebody welds is twice as high as one of free booths. */
  const rows = $derived(
    laidOut
      ? Array.from({ length: Math.max(0, ...view!.booths.map((booth) => booth.row)) + 1 }, (_, row) =>
          view!.booths.some((booth) => booth.row === row && booth.coupon)
            ? 'minmax(0, 3fr)'
            : 'minmax(5vw, 1fr)',
        ).join(' ')
      : undefined,
  )
  const called = $derived(new Map(view?.calls.map((call) => [call.booth, call])))

  const waitingSays = $derived.by(() => {
    const unnamed = view?.waitingUnnamed ?? 0
    const named = view?.waiting.join(', ') ?? ''
    if (!unnamed) return named
    return named ? `${named} and ${unnamed} more` : `${unnamed} ${unnamed === 1 ? 'student' : 'students'}`
  })

  function nextOf(coupon: Schema['WallCoupon']): string {
    const { next } = coupon
    if (next.kind === 'fitUp') return 'Fit-up'
    if (next.kind !== 'pass') return 'All beads laid'
    const many = coupon.section.beads.filter((bead) => bead.layer === next.layer).length > 1
    return `${beadCode({ stage: next.stage!, layer: next.layer!, beadInLayer: next.beadInLayer! }, many)} next`
  }
</script>

<svelte:head><title>Wall · Gradus</title></svelte:head>

{#if !view}
  <Waiting error={wall.error} retry={() => wall.refetch()} what="The floor" />
{:else}
  <div class="wall" style:--across={laidOut ? across : 6}>
    <p class="flex items-baseline gap-6 text-[2vw]">
      <strong>{longDay(view.today)}</strong>
      <span class="text-(--soft)">{view.periodName.toLowerCase()}</span>
      {#if late}<span class="ml-auto font-bold text-(--straw-ink)" role="status"
          >No word from the server: as it was</span
        >{/if}
    </p>
    {#if view.calls.length}
      <ol class="grid gap-[0.4vw]" aria-label="Waiting for the instructor, longest first">
        {#each view.calls.slice(0, 3) as call (call.stamp + call.point)}
          <li class="call">
            <span class="number text-[4vw] leading-none">{call.booth ?? '–'}</span>
            <strong class="min-w-0 grow truncate text-[2.6vw]">{call.name ?? call.stamp}</strong>
            <span class="truncate text-[2.2vw]">{call.point}</span>
            <span class="clock"><WaitClock since={call.calledAt} /></span>
          </li>
        {/each}
        {#if view.calls.length > 3}<li class="text-[1.6vw]">and {view.calls.length - 3} more</li>{/if}
      </ol>
    {/if}
    <ol class="booths" style:grid-template-rows={rows} aria-label="Booths">
      {#each view.booths as booth (booth.number)}
        <li
          class="booth"
          class:closed={booth.closedWhy}
          class:waits={called.has(booth.number)}
          class:comes={!booth.coupon && booth.planned}
          style:grid-column={laidOut ? booth.column + 1 : undefined}
          style:grid-row={laidOut ? booth.row + 1 : undefined}
        >
          <p class="flex items-start gap-[0.6vw]">
            <strong class="min-w-0 grow truncate text-[2vw] leading-tight"
              >{booth.name ?? booth.planned ?? (booth.closedWhy ? 'Closed' : 'Free')}</strong
            >
            <span class="number text-[3vw] leading-none text-(--soft)">{booth.number}</span>
          </p>
          {#if booth.coupon}
            {#if booth.name !== booth.coupon.stamp}<p class="stamp text-[1.5vw] text-(--soft)">
                {booth.coupon.stamp}
              </p>{/if}
            <div class="min-h-0 grow">
              <SectionSketch
                sketch={booth.coupon.section}
                next={booth.coupon.next.beadKey}
                label="{booth.coupon.beadsLaid} of {booth.coupon.beadsPlanned} beads laid"
              />
            </div>
            <p class="flex items-baseline gap-[0.8vw] text-[2.2vw] leading-tight whitespace-nowrap">
              <strong class="min-w-0 truncate">{nextOf(booth.coupon)}</strong>
              {#if booth.coupon.asTest}<span class="as-test">test</span>{/if}
            </p>
          {:else if booth.planned}<p class="text-[1.5vw] text-(--soft)">comes this period</p>
          {:else if booth.closedWhy}<p class="text-[1.5vw]">{booth.closedWhy}</p>{/if}
        </li>
      {/each}
    </ol>
    {#if view.waiting.length || view.waitingUnnamed}
      <p class="truncate text-[1.9vw]">
        <strong>No booth yet:</strong>
        {waitingSays}
      </p>
    {/if}
  </div>
{/if}

<style>
  /* Everything grows with the screen: it is read from three metres. */
  .wall {
    display: flex;
    min-height: calc(100vh - 3.6rem);
    flex-direction: column;
    gap: 0.8vw;
    padding: 0.8vw 1.2vw;
  }
  .call {
    display: flex;
    align-items: center;
    gap: 1.4vw;
    padding: 0.4vw 1.2vw;
    background: var(--straw);
    color: var(--on-straw);
  }
  .clock {
    zoom: 1.6;
  }
  .booths {
    display: grid;
    flex: 1 1 auto;
    grid-template-columns: repeat(var(--across), minmax(0, 1fr));
    gap: 4px;
    padding: 4px;
    background: var(--steel-edge);
  }
  .booth {
    display: flex;
    min-height: 5vw;
    flex-direction: column;
    padding: 0.7vw 0.9vw;
    background: var(--sheet);
  }
  .waits {
    box-shadow: inset 0 0 0 0.5vw var(--straw);
  }
  .comes {
    background: var(--straw-ground);
  }
  .closed {
    background: repeating-linear-gradient(135deg, var(--page) 0 10px, var(--line) 10px 11px);
  }
  .as-test {
    border-bottom: 3px solid var(--blue);
    font-weight: 700;
  }
</style>
