<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import type { Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import { recordEvent, takeBackEvent } from '$lib/recording'
  import { clockText, ticking } from '$lib/ticking.svelte'

  let { holds }: { holds: readonly Schema['FloorHold'][] } = $props()
  const client = useQueryClient()

  async function answer(hold: Schema['FloorHold'], go: boolean) {
    await notices.attempt(async () => {
      const id = await recordEvent(hold.couponId, 'holdAnswered', { point: hold.point, go })
      notices.add(`${hold.studentName}, ${hold.point}: ${go ? 'go on' : 'mend first'}.`, 'done', async () => {
        await takeBackEvent(hold.couponId, id)
        await client.invalidateQueries()
      })
      await client.invalidateQueries()
    })
  }
</script>

{#if holds.length}
  <section class="mb-2 border-2 border-(--bronze) bg-(--sheet) p-2" aria-label="Waiting for you">
    <ul class="flex flex-wrap gap-2">
      {#each holds as hold (hold.couponId + hold.point)}
        <li class="flex flex-wrap items-center gap-1.5">
          <a class="tap px-2" href="/coupons/{hold.couponId}"
            >{#if hold.booth}<span class="number text-2xl">{hold.booth}</span>{/if}
            {hold.studentName}: {hold.point}
            <span class="number text-(--soft)"
              >{clockText(ticking.now - new Date(hold.calledAt).getTime())}</span
            ></a
          >
          <button
            class="tap tap-main"
            aria-label="{hold.studentName}, {hold.point}: go on"
            onclick={() => answer(hold, true)}>Go</button
          >
          <button
            class="tap"
            aria-label="{hold.studentName}, {hold.point}: mend first"
            onclick={() => answer(hold, false)}>Mend</button
          >
        </li>
      {/each}
    </ul>
  </section>
{/if}
