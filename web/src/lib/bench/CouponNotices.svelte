<script lang="ts">
  import { api, ask, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import { outbox } from '$lib/outbox.svelte'
  import { takeBackEvent } from '$lib/recording'
  import { session } from '$lib/session.svelte'
  import Notice from '$lib/ui/Notice.svelte'
  import WaitClock from '$lib/ui/WaitClock.svelte'
  import { inUnits } from '$lib/units.svelte'
  import { voidName } from '$lib/words'
  import TimerChip from './TimerChip.svelte'
  import { VOID_OTHER, type Tell } from './coupon-words'

  type Props = { coupon: Schema['CouponView']; ontell: Tell; onchanged: () => Promise<unknown> }
  let { coupon, ontell, onchanged }: Props = $props()

  const SHOWN = 5

  async function confirm() {
    const ids = coupon.proposals.map((one) => one.id)
    const done = await notices.attempt(() =>
      ask(
        api.PUT('/api/coupons/{couponId}/confirmed', {
          params: { path: { couponId: coupon.id } },
          body: { ids },
        }),
      ),
    )
    if (done) notices.add(ids.length === 1 ? 'Confirmed.' : `${ids.length} entries confirmed.`)
    await onchanged()
  }

  const kept = $derived(outbox.waiting.filter((one) => one.couponId === coupon.id))
  const life = $derived(coupon.life)
  const closed = $derived(coupon.closedAt != null)
  const voided = $derived(life.events.findLast((one) => one.kind === 'voided'))
</script>

<!-- What is true of the whole coupon now: given up, a rule broken, waiting, running. -->
<div class="flex flex-col gap-2 empty:hidden">
  {#if voided}
    <Notice tone="fails">
      <strong class="text-(--caution)"
        >Given up: {life.voidReason === VOID_OTHER && voided.body.note
          ? voided.body.note
          : voidName(life.voidReason!)}.</strong
      >
      It counts for nothing, and stays on record.
      {#snippet acts()}
        {#if !session.isStudent}<button
            class="plate"
            onclick={async () => {
              await notices.attempt(() => takeBackEvent(coupon.id, voided.id))
              await onchanged()
            }}>Take it back</button
          >{/if}
      {/snippet}
    </Notice>
  {:else if life.breaches.length}
    <Notice tone="fails">
      <strong class="text-(--caution)">{life.breaches.map((one) => one.says).join(' ')}</strong>
      {life.downgraded ? 'It counts as coached work only.' : ''}
    </Notice>
  {/if}
  {#if coupon.proposals.length}
    <Notice tone="waits">
      <strong
        >{coupon.proposals.length === 1
          ? 'One entry is proposed'
          : `${coupon.proposals.length} entries are proposed`} by {[
          ...new Set(coupon.proposals.map((one) => one.by)),
        ].join(', ')}{session.isStudent ? '; an instructor confirms' : ''}.</strong
      >
      {#if !session.isStudent}
        <ul class="mt-1 list-disc pl-5 text-sm">
          {#each coupon.proposals.slice(0, SHOWN) as one (one.id)}<li class="break-words">
              {inUnits(one.says)}
            </li>{/each}
          {#if coupon.proposals.length > SHOWN}<li>and {coupon.proposals.length - SHOWN} more</li>{/if}
        </ul>
      {/if}
      {#snippet acts()}
        {#if !session.isStudent && !closed}
          <button class="plate" onclick={confirm}
            >{coupon.proposals.length === 1 ? 'Confirm it' : `Confirm all ${coupon.proposals.length}`}</button
          >
        {/if}
      {/snippet}
    </Notice>
  {/if}
  {#if kept.length && outbox.holdup}
    <Notice tone="waits">
      <strong>Kept on this tablet, not yet on the server:</strong>
      {kept
        .slice(-SHOWN)
        .map((one) => one.label)
        .join('; ')}{kept.length > SHOWN ? `; and ${kept.length - SHOWN} before` : ''}.
    </Notice>
  {/if}
  {#if !closed}
    {#each life.holds as hold (hold.point)}
      <Notice tone="waits">
        <span class="flex flex-wrap items-center gap-3"
          ><strong>{hold.point}</strong><WaitClock since={hold.calledAt} small /></span
        >
        {#snippet acts()}
          {#if session.isStudent}<span class="self-center text-(--soft)">The instructor is called.</span
            >{:else}<button
              class="plate"
              aria-label="{hold.point}: go on"
              onclick={() => ontell('holdAnswered', { point: hold.point, go: true }, `${hold.point}: go on.`)}
              >Go on</button
            >
            <button
              class="plate"
              aria-label="{hold.point}: mend first"
              onclick={() =>
                ontell('holdAnswered', { point: hold.point, go: false }, `${hold.point}: mend first.`)}
              >Mend first</button
            >{/if}
        {/snippet}
      </Notice>
    {/each}
    {#if !life.positionStands}
      <Notice tone="waits">
        <strong>Its position is not witnessed.</strong>
        {#snippet acts()}
          {#if !session.isStudent}<button
              class="plate"
              onclick={() => ontell('positionWitnessed', {}, 'Position witnessed.')}
              >Position witnessed</button
            >{/if}
        {/snippet}
      </Notice>
    {/if}
    {#if life.timers.length}
      <p class="flex flex-wrap gap-2">
        {#each life.timers as one (one.eventId)}<TimerChip timer={one} />{/each}
      </p>
    {/if}
  {/if}
</div>
