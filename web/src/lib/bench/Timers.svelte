<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { timerName } from '$lib/words'
  import { minutesOf, timersOf, type Tell } from './coupon-words'

  let { coupon, ontell }: { coupon: Schema['CouponView']; ontell: Tell } = $props()
  const running = $derived(new Set(coupon.life.timers.map((one) => one.timer)))
  let choosing = $state<Schema['BenchTimer'] | null>(null)

  function turn(which: Schema['BenchTimer']) {
    if (running.has(which)) ontell('timerStopped', { timer: which }, `${timerName(which)} stopped.`)
    else if (which === 'cool' || which === 'purge') choosing = choosing === which ? null : which
    else
      ontell(
        'timerStarted',
        { timer: which, minutes: which === 'sitting' ? coupon.test.rules.timeLimitMinutes : null },
        `${timerName(which)} runs.`,
      )
  }
</script>

<div class="flex flex-wrap gap-1.5">
  {#each timersOf(coupon) as which (which)}
    <button class="plate" aria-pressed={running.has(which)} onclick={() => turn(which)}
      >{timerName(which)}</button
    >
  {/each}
</div>
{#if choosing}
  <div class="mt-2 flex flex-wrap items-center gap-1.5" role="group" aria-label="{timerName(choosing)} for">
    {#each minutesOf(coupon, choosing) as { minutes, computed } (minutes)}
      <button
        class="plate number text-lg"
        onclick={() => {
          ontell('timerStarted', { timer: choosing!, minutes }, `${timerName(choosing!)} for ${minutes} min.`)
          choosing = null
        }}
        >{minutes} min{#if computed}<span class="text-sm">as computed</span>{/if}</button
      >
    {/each}
  </div>
{/if}
