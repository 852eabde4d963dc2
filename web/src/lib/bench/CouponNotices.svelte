<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import { takeBackEvent } from '$lib/recording'
  import Notice from '$lib/ui/Notice.svelte'
  import WaitClock from '$lib/ui/WaitClock.svelte'
  import { voidName } from '$lib/words'
  import TimerChip from './TimerChip.svelte'
  import { VOID_OTHER, type Tell } from './coupon-words'

  type Props = { coupon: Schema['CouponView']; ontell: Tell; onchanged: () => Promise<unknown> }
  let { coupon, ontell, onchanged }: Props = $props()

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
        <button
          class="plate"
          onclick={async () => {
            await notices.attempt(() => takeBackEvent(coupon.id, voided.id))
            await onchanged()
          }}>Take it back</button
        >
      {/snippet}
    </Notice>
  {:else if life.breaches.length}
    <Notice tone="fails">
      <strong class="text-(--caution)">{life.breaches.map((one) => one.says).join(' ')}</strong>
      {life.downgraded ? 'It counts as coached work only.' : ''}
    </Notice>
  {/if}
  {#if !closed}
    {#each life.holds as hold (hold.point)}
      <Notice tone="waits">
        <span class="flex flex-wrap items-center gap-3"
          ><strong>{hold.point}</strong><WaitClock since={hold.calledAt} small /></span
        >
        {#snippet acts()}
          <button
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
          >
        {/snippet}
      </Notice>
    {/each}
    {#if !life.positionStands}
      <Notice tone="waits">
        <strong>Its position is not witnessed.</strong>
        {#snippet acts()}
          <button class="plate" onclick={() => ontell('positionWitnessed', {}, 'Position witnessed.')}
            >Position witnessed</button
          >
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
