<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { timeOf } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import { session } from '$lib/session.svelte'
  import Notice from '$lib/ui/Notice.svelte'
  import { clockText } from './arc-words'

  type Props = {
    coupon: Schema['CouponView']
    asked: Schema['AskedTrace'][]
    nameOf: (beadKey: string) => string
  }
  let { coupon, asked, nameOf }: Props = $props()
  const client = useQueryClient()
  let busy = $state(false)

  async function say(traceId: string, passId: string | null) {
    busy = true
    await notices.attempt(async () => {
      await ask(
        api.PUT('/api/coupons/{couponId}/arcs/{traceId}/bead', {
          params: { path: { couponId: coupon.id, traceId } },
          body: { passId },
        }),
      )
      notices.add(passId ? 'The arc is with its bead.' : 'The arc is with no bead.', 'done')
      await client.invalidateQueries({ queryKey: ['coupon', coupon.id] })
    })
    busy = false
  }
</script>

{#each asked as one (one.id)}
  <div class="mt-3">
    <Notice tone="waits">
      Of which bead is the arc of <strong class="number"
        >{timeOf(one.fromAt, session.timeZone)} to {timeOf(one.toAt, session.timeZone)}</strong
      >, {clockText(one.arcSeconds)} long?
      {#snippet acts()}
        {#each one.beads as bead (bead.passId)}
          <button class="plate" disabled={busy} onclick={() => say(one.id, bead.passId)}
            >{bead.couponId === coupon.id
              ? nameOf(bead.beadKey)
              : `${bead.student || 'Another coupon'}, ${bead.stamp}`}</button
          >
        {/each}
        <button class="bare" disabled={busy} onclick={() => say(one.id, null)}>None of them</button>
      {/snippet}
    </Notice>
  </div>
{/each}
