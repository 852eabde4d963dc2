<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { api, ask } from '$lib/api/client'
  import { moment } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import VerdictMark from '$lib/parts/VerdictMark.svelte'
  import { signing } from '$lib/signing.svelte'
  import { session } from '$lib/session.svelte'
  import { inUnits } from '$lib/units.svelte'

  const client = useQueryClient()
  const isLead = $derived(session.isLead)
  const list = createQuery(() => ({
    queryKey: ['verdicts-today'],
    queryFn: () => ask(api.GET('/api/verdicts/today')),
    enabled: isLead,
  }))
  const counting = $derived(list.data?.rows.some((row) => row.counts) ?? false)

  async function decline(closingId: string | null, declined: boolean) {
    await notices.attempt(async () => {
      const signed = await signing.sign(
        declined ? 'The signed verdict counts.' : "Today's verdict counts.",
        (header) =>
          ask(api.PUT('/api/verdicts/today', { params: { header }, body: { closingId, declined } })),
      )
      if (signed) await client.invalidateQueries({ queryKey: ['verdicts-today'] })
    })
  }
</script>

{#if isLead && list.data && list.data.total > 0}
  <section class="mt-5" aria-label="Signed verdicts that today's limits read otherwise">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h2 class="mr-auto text-xl">Signed verdicts that today's limits read otherwise</h2>
      <button class="plate" onclick={() => decline(null, counting)}
        >{counting ? 'Let every signed one count' : 'Let today’s count for all'}</button
      >
    </div>
    <p class="text-(--soft)">
      {list.data.total}
      {list.data.total === 1 ? 'coupon' : 'coupons'} signed by earlier limits. What was signed stays; readiness
      goes by today's unless you let the signed one count.
    </p>
    <div class="mt-2 overflow-x-auto">
      <table class="sheet w-full text-left">
        <thead>
          <tr class="text-sm text-(--soft)"
            ><th class="px-3 py-1">Coupon</th><th>Student</th><th>Signed</th><th>Today</th><th
              >What decides today</th
            ><th class="sr-only">Which counts</th></tr
          >
        </thead>
        <tbody>
          {#each list.data.rows as row (row.closingId)}
            <tr class="border-t align-top">
              <td class="px-3 py-1.5"
                ><a class="font-semibold underline" href="/coupons/{row.couponId}">{row.stamp}</a>
                <span class="block text-sm text-(--soft)"
                  >{row.testId}, {moment(row.closedAt, session.timeZone)}</span
                ></td
              >
              <td class="py-1.5 pr-3">{row.student}</td>
              <td class="py-1.5 pr-3"><VerdictMark kind={row.kept} /></td>
              <td class="py-1.5 pr-3"><VerdictMark kind={row.today} /></td>
              <td class="py-1.5 pr-3">{inUnits(row.says)}</td>
              <td class="py-1 pr-2 text-right"
                ><button
                  class="plate whitespace-nowrap"
                  aria-label="{row.stamp}: {row.counts ? 'let the signed one count' : 'let today’s count'}"
                  onclick={() => decline(row.closingId, row.counts)}
                  >{row.counts ? 'Keep the signed' : 'Take today’s'}</button
                ></td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  </section>
{/if}
