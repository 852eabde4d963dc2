<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { dayOf } from '$lib/days'
  import { session } from '$lib/session.svelte'
  import VerdictMark from './VerdictMark.svelte'

  let { rows }: { rows: Schema['CouponRow'][] } = $props()
</script>

<div class="sheet overflow-x-auto">
  <table class="ledger">
    <thead class="text-sm text-(--soft)">
      <tr>
        <th class="px-3 py-1.5 font-semibold">Stamp</th>
        <th class="px-2 font-semibold">Test</th>
        <th class="px-2 font-semibold">Day</th>
        <th class="px-2 font-semibold">How</th>
        <th class="px-2 font-semibold">Verdict</th>
        <th class="px-2 font-semibold">Rejected for</th>
      </tr>
    </thead>
    <tbody>
      {#each rows as row (row.id)}
        <tr>
          <td class="px-3"
            ><a
              class="stamp block py-2.5 underline decoration-(--line) underline-offset-4"
              href="/coupons/{row.id}">{row.stamp}</a
            ></td
          >
          <td class="number px-2">{row.testId}{row.drillId ? ', drill' : ''}</td>
          <td class="px-2 whitespace-nowrap">{dayOf(row.startedAt, session.timeZone)}</td>
          <td class="px-2 whitespace-nowrap">{row.asTest ? 'as test' : 'coached'}</td>
          <td class="px-2"
            >{#if row.voidedAt}<span class="font-semibold text-(--soft)">given up</span
              >{:else if row.verdict}<VerdictMark kind={row.verdict} />{:else}<span
                class="font-semibold text-(--soft)">in work</span
              >{/if}</td
          >
          <td class="px-2">{row.rejectedFor.join('; ')}</td>
        </tr>
      {:else}
        <tr><td colspan="6" class="p-6 text-center text-(--soft)">No coupon yet.</td></tr>
      {/each}
    </tbody>
  </table>
</div>
