<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import type { PassExtras } from '$lib/recording'
  import { runText, stretchText } from './pass-words'

  type Props = {
    coupon: Schema['CouponView']
    bead: Schema['BeadView']
    card: Schema['PassCard']
    /** Where the next run was started and stopped, when that was tapped on the drawing. */
    extras: PassExtras
    busy: boolean
    onrun: (run: { startAt: string; stopAt: string; side: Schema['PipeSide'] | null }) => void
    onhand: (hand: Schema['OperatorHand']) => void
    ontakeback: (passId: string) => void
  }
  let { coupon, bead, card, extras, busy, onrun, onhand, ontakeback }: Props = $props()

  const isPipe = $derived(coupon.test.product === 'pipe')
  const tapped = $derived(extras.startAt != null && extras.stopAt != null)
  const SIDES: Schema['PipeSide'][] = ['nine', 'three']
</script>

<div
  class="mt-2 flex flex-col gap-2 border-l-4 border-(--straw) pl-3"
  role="group"
  aria-label="Runs of this bead"
>
  {#each bead.runs as run (run.id)}
    <p class="flex flex-wrap items-center gap-2">
      <span class="grow font-semibold"
        >{runText(run, coupon.test.product)}, {run.hand} hand, {run.amps} A</span
      >
      <button class="plate px-2 text-sm" onclick={() => ontakeback(run.id)}>Take back</button>
    </p>
  {/each}
  <div class="flex flex-wrap gap-1.5">
    {#each bead.runsLeft as run (run.from + run.to + (run.side ?? ''))}
      <button
        class="plate grow text-lg"
        disabled={busy}
        onclick={() => onrun({ startAt: run.from, stopAt: run.to, side: run.side ?? null })}
        >{stretchText(run.from, run.to, run.side, coupon.test.product)}</button
      >
    {/each}
  </div>
  {#if tapped}
    <div class="flex flex-wrap gap-1.5">
      {#each isPipe ? SIDES : [null] as side (side)}
        <button
          class="plate"
          disabled={busy}
          onclick={() => onrun({ startAt: extras.startAt!, stopAt: extras.stopAt!, side })}
          >{stretchText(extras.startAt!, extras.stopAt!, side, coupon.test.product)}</button
        >
      {/each}
    </div>
  {:else}
    <p class="text-sm text-(--soft)">A run of another length: say below where it was started and stopped.</p>
  {/if}
  <div class="flex items-center gap-1.5" role="group" aria-label="Hand of this run">
    <span class="eyebrow">Hand</span>
    {#each ['right', 'left'] as Schema['OperatorHand'][] as hand (hand)}
      <button class="plate px-3" aria-pressed={card.hand === hand} onclick={() => onhand(hand)}
        >{hand === 'right' ? 'Right' : 'Left'}</button
      >
    {/each}
  </div>
</div>
