<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import type { Tell } from './coupon-words'
  import { stageName } from '$lib/words'

  type Props = {
    coupon: Schema['CouponView']
    bead: Schema['BeadView']
    ontell: Tell
  }
  let { coupon, bead, ontell }: Props = $props()

  const hasCap = $derived(coupon.beads.some((one) => one.stage === 'cap'))
  const started = $derived(bead.runs.length > 0)
</script>

<div class="mt-2 flex flex-wrap gap-1.5" role="group" aria-label="More or fewer beads">
  {#if !bead.patch}
    <button
      class="plate px-2"
      onclick={() =>
        ontell(
          'beadAdded',
          { beadKey: bead.key, stage: bead.stage },
          `One more ${stageName(bead.stage).toLowerCase()} bead.`,
        )}>One more in this layer</button
    >
  {/if}
  {#if hasCap}
    <button class="plate px-2" onclick={() => ontell('beadAdded', { patch: true }, 'A patch before the cap.')}
      >A patch in a low place</button
    >
  {/if}
  {#if !started && !bead.patch}
    <button class="plate px-2" onclick={() => ontell('beadLeftOut', { beadKey: bead.key }, 'Bead left out.')}
      >Leave this one out</button
    >
  {/if}
</div>
