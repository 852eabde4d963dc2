<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { api, ask } from '$lib/api/client'
  import ArcStrip from './ArcStrip.svelte'

  let { couponId }: { couponId: string } = $props()
  const client = useQueryClient()
  const EACH_SECOND = 1000
  const NOTHING_COMES = 10_000
  const live = createQuery(() => ({
    queryKey: ['arc-live', couponId],
    queryFn: () => ask(api.GET('/api/coupons/{couponId}/arcs/live', { params: { path: { couponId } } })),
    refetchInterval: (query) => (query.state.data?.live ? EACH_SECOND : NOTHING_COMES),
  }))
  const now = $derived(live.data?.live ?? null)
  const isOn = $derived(now?.isOn ?? false)
  // An arc that went out is closed some time after it: then its bead may have it.
  const CLOSED_AFTER = 20_000
  $effect(() => {
    if (isOn) return
    const timer = setTimeout(
      () => void client.invalidateQueries({ queryKey: ['coupon', couponId, 'arcs'] }),
      CLOSED_AFTER,
    )
    return () => clearTimeout(timer)
  })
</script>

{#if now}
  <section aria-label="The arc right now" class="mb-2 border-b pb-1">
    <p class="flex flex-wrap items-baseline gap-x-3">
      <span class="font-semibold">{isOn ? 'The arc burns' : 'No arc'}</span>
      {#if isOn}<span class="number text-2xl">{Math.round(now.amps)} A, {now.volts.toFixed(1)} V</span>{/if}
      <span class="ml-auto text-sm text-(--soft)">the last minute</span>
    </p>
    <ArcStrip
      points={now.points}
      says="Volts and current of the last minute. {isOn ? 'The arc burns.' : 'No arc.'}"
      height={76}
    />
  </section>
{/if}
