<script lang="ts">
  import { changed } from '$lib/changed'
  import { useQueryClient } from '@tanstack/svelte-query'
  import type { Schema } from '$lib/api/client'
  import { tellEvent } from '$lib/recording'
  import WaitClock from '$lib/ui/WaitClock.svelte'

  let { holds }: { holds: readonly Schema['FloorHold'][] } = $props()
  const client = useQueryClient()

  const answer = (hold: Schema['FloorHold'], go: boolean) =>
    tellEvent(
      hold.couponId,
      'holdAnswered',
      { point: hold.point, go },
      `${hold.studentName}, ${hold.point}: ${go ? 'go on' : 'mend first'}.`,
      () => changed(client, 'coupon'),
    )
</script>

<!-- Longest first; only the first has the lead. -->
<ul class="mb-3 grid gap-3 xl:grid-cols-2" aria-label="Waiting for you">
  {#each holds as hold, index (hold.couponId + hold.point)}
    <li
      class="flex flex-wrap items-center gap-x-3 gap-y-1 border-l-8 bg-(--straw-ground) px-3 py-2"
      style:border-color="var(--straw)"
    >
      <WaitClock since={hold.calledAt} />
      {#if hold.booth}<span class="number border-2 border-(--steel-edge) bg-(--sheet) px-3 py-0.5 text-3xl"
          >{hold.booth}</span
        >{/if}
      <a class="min-w-36 grow py-1 leading-tight" href="/coupons/{hold.couponId}">
        <span class="block font-bold [overflow-wrap:anywhere]">{hold.studentName}</span>
        <span>{hold.point}</span>
      </a>
      <button
        class={index === 0 ? 'lead' : 'plate min-h-[56px]'}
        aria-label="{hold.studentName}, {hold.point}: go on"
        onclick={() => answer(hold, true)}>Go on</button
      >
      <button
        class="plate min-h-[56px]"
        aria-label="{hold.studentName}, {hold.point}: mend first"
        onclick={() => answer(hold, false)}>Mend first</button
      >
    </li>
  {/each}
</ul>
