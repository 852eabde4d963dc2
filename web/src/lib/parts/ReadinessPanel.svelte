<script lang="ts">
  import ChanceRings from '$lib/drawings/ChanceRings.svelte'
  import { readinessQuery } from '$lib/queries'
  import { percent, stageName } from '$lib/words'
  import type { Schema } from '$lib/api/client'
  import ChanceChart from './ChanceChart.svelte'
  import Waiting from './Waiting.svelte'

  let { studentId, testId }: { studentId: string; testId: string } = $props()
  const query = readinessQuery(
    () => studentId,
    () => testId,
  )
  const view = $derived(query.data)
  const bar = $derived(query.data?.bar ?? 0)
  const best = $derived(view?.worth.filter((one) => one.stage).toSorted((a, b) => b.adds - a.adds)[0])
  const full = $derived(view?.worth.find((one) => !one.stage))

  function forecastSays(forecast: Schema['Forecast']): string {
    const { toBar, toBarLeast, toBarMost } = forecast
    if (toBar === 0) return `Most likely the bar of ${percent(bar)} is reached already.`
    if (toBar == null)
      return `At the usual rate of learning ${percent(bar)} is more than 30 full coupons away: something must change.`
    return `A clean coupon ${percent(bar)} of the time, before hidden faults: about ${toBar} more full coupons at the usual rate of learning; ${toBarLeast ?? 'more than 30'} for the quickest in twenty, ${toBarMost ?? 'more than 30'} for the slowest.`
  }
</script>

{#if !view}
  <Waiting error={query.error} retry={() => query.refetch()} what="The chance over time" room="28rem" />
{:else}
  <div class="grid gap-4 md:grid-cols-[1.5fr_1fr]">
    <div class="min-w-0"><ChanceChart trace={view.trace} {bar} /></div>
    <div class="min-w-0"><ChanceRings elements={view.elements} /></div>
  </div>
  <p class="mt-2">{forecastSays(view.forecast)}</p>
  {#if full && best?.stage}
    <p>
      One more full coupon is expected to add {(full.adds * 100).toFixed(1)} % to the chance; a drill of the {stageName(
        best.stage as Schema['Stage'],
      ).toLowerCase()}
      {(best.adds * 100).toFixed(1)}.
    </p>
  {/if}
{/if}
