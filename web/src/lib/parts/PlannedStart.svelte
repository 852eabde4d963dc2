<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { goto } from '$app/navigation'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'

  type Props = { planned: Schema['FloorPlanned']; booth: Schema['BoothView']; wide?: boolean }
  /** Starts the coupon of a planned item, in the booth that is given. */
  let { planned, booth, wide = false }: Props = $props()
  const client = useQueryClient()
  const id = newId()
  const SITTING = 'sitting:'
  const sitting = $derived(planned.itemId.startsWith(SITTING) ? planned.itemId.slice(SITTING.length) : null)
  const name = $derived(planned.name.replace('Full coupon, ', '').replace(', on a filled blank', ''))

  async function start() {
    const done = await notices.attempt(() =>
      ask(
        api.PUT('/api/coupons/{couponId}', {
          params: { path: { couponId: id } },
          body: {
            studentId: planned.studentId,
            testId: planned.testId,
            drillId: planned.drillId,
            variants: planned.variants,
            boothId: booth.id,
            asTest: planned.kind !== 'coached' && planned.kind !== 'drill',
          },
        }),
      ),
    )
    if (!done) return
    await client.invalidateQueries({ queryKey: ['floor'] })
    await goto(`/coupons/${id}`)
  }
</script>

{#if sitting}
  <a class="plate {wide ? 'w-full' : ''} flex-col gap-0 text-left" href="/sittings/{sitting}">
    <span>Sitting: {planned.testId}</span>
    <span class="text-sm font-normal">booth <span class="number text-base">{booth.number}</span></span>
  </a>
{:else}
  <button class="plate {wide ? 'w-full' : ''} flex-col gap-0 text-left" title={planned.why} onclick={start}>
    <span>Start {planned.testId} {name}</span>
    <span class="text-sm font-normal">booth <span class="number text-base">{booth.number}</span></span>
  </button>
{/if}
