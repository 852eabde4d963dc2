<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import type { Tell } from './coupon-words'

  let { coupon, ontell }: { coupon: Schema['CouponView']; ontell: Tell } = $props()
  const called = $derived(new Set(coupon.life.holds.map((one) => one.point)))
</script>

<p class="pb-1 text-(--soft)">The instructor is called to:</p>
<div class="flex flex-wrap gap-1.5">
  {#each coupon.test.holdPoints as point (point)}
    <button
      class="plate"
      aria-label="Call the instructor: {point}"
      disabled={called.has(point)}
      onclick={() => ontell('holdCalled', { point }, `Called: ${point}.`)}>{point}</button
    >
  {/each}
</div>
