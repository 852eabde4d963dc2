<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { ago } from '$lib/days'
  import ChanceBand from '$lib/parts/ChanceBand.svelte'
  import { session } from '$lib/session.svelte'

  let {
    students,
    onstart,
  }: { students: readonly Schema['FloorStudent'][]; onstart: (studentId: string) => void } = $props()
</script>

<div class="relative overflow-x-auto">
  <table class="ledger">
    <thead class="text-sm text-(--soft)">
      <tr>
        <th class="px-1 py-1.5 font-semibold">Student</th>
        <th class="px-2 font-semibold">Target</th>
        <th
          class="w-[24%] px-2 font-semibold"
          title="Of passing everything with a whole coupon of the target test made now.">Chance to pass</th
        >
        <th class="px-2 font-semibold max-sm:hidden">Last coupon</th>
        <th class="px-2 font-semibold max-md:hidden">Advice</th>
        <th class="px-2"><span class="sr-only">Next</span></th>
      </tr>
    </thead>
    <tbody>
      {#each students as student (student.id)}
        <tr>
          <td class="px-1"
            ><a class="bare max-w-72 [overflow-wrap:anywhere]" href="/students/{student.id}">{student.name}</a
            ></td
          >
          <td class="number px-2 text-lg" title={student.targetTitle}>{student.targetTestId}</td>
          <td class="px-2"><ChanceBand chance={student.chance} slim /></td>
          <td class="px-2 whitespace-nowrap max-sm:hidden"
            >{student.lastClosedAt ? ago(student.lastClosedAt, session.timeZone) : 'none yet'}</td
          >
          <td class="px-2 leading-tight max-md:hidden"
            ><a
              class="hover:underline"
              href="/students/{student.id}/decide/{student.targetTestId}"
              aria-label="Advice: {student.says}"
              title={student.why}>{student.says}</a
            ></td
          >
          <td class="px-2 py-1 text-right">
            {#if student.open}
              <a class="plate" href="/coupons/{student.open.id}">Bench</a>
            {:else}
              <button
                class="plate whitespace-nowrap"
                aria-label="Start a coupon for {student.name}"
                onclick={() => onstart(student.id)}>Start</button
              >
            {/if}
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
</div>
