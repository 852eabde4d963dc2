<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { ago } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import ChanceBand from '$lib/parts/ChanceBand.svelte'
  import PlannedStart from '$lib/parts/PlannedStart.svelte'
  import { session } from '$lib/session.svelte'
  import { decisionName } from '$lib/words'

  let {
    floor,
    shown,
    plannedNow,
    freeBooths,
    taken,
    onstart,
  }: {
    floor: Schema['FloorView']
    shown: readonly Schema['FloorStudent'][]
    plannedNow: ReadonlyMap<string, Schema['FloorPlanned']>
    freeBooths: readonly Schema['BoothView'][]
    /** Numbers of the booths that somebody is in. */
    taken: ReadonlySet<number>
    onstart: (studentId: string) => void
  } = $props()
  const client = useQueryClient()
  const absent = $derived(new Set(floor.absent))
  let elsewhere = $state<string | null>(null)

  async function setAbsent(student: Schema['FloorStudent'], value: boolean) {
    await notices.attempt(async () => {
      const day = floor.today
      if (value)
        await ask(
          api.PUT('/api/absences/{id}', {
            params: { path: { id: newId() } },
            body: { studentId: student.id, day, period: null },
          }),
        )
      else
        await ask(
          api.DELETE('/api/absences/{studentId}/{day}', { params: { path: { studentId: student.id, day } } }),
        )
      await client.invalidateQueries()
      if (value) notices.add(`${student.name} is absent today.`, 'done', () => setAbsent(student, false))
    })
  }
</script>

<div class="sheet mt-2 overflow-x-auto">
  <table class="w-full text-left">
    <thead class="text-sm text-(--soft)">
      <tr>
        <th class="px-3 py-1.5 font-semibold">Student</th>
        <th class="px-2 font-semibold">Target</th>
        <th class="w-[22%] px-2 font-semibold">Chance</th>
        <th class="px-2 font-semibold">Last coupon</th>
        <th class="px-2 font-semibold">Decided</th>
        <th class="px-2 font-semibold">{floor.periodNames[floor.period]}</th>
        <th class="px-2"><span class="sr-only">Next</span></th>
      </tr>
    </thead>
    <tbody>
      {#each shown as student (student.id)}
        <tr class="border-t">
          <td class="px-3"
            ><a
              class="block py-2.5 font-semibold underline decoration-(--line) underline-offset-4"
              href="/students/{student.id}">{student.name}</a
            ></td
          >
          <td class="number px-2 text-lg" title={student.targetTitle}>{student.targetTestId}</td>
          <td class="px-2"><ChanceBand chance={student.chance} slim /></td>
          <td class="px-2 whitespace-nowrap"
            >{student.lastClosedAt ? ago(student.lastClosedAt, session.timeZone) : 'none yet'}</td
          >
          <td class="px-2 whitespace-nowrap"
            >{student.lastDecision ? decisionName(student.lastDecision) : ''}</td
          >
          <td class="px-2 py-1">
            {#if absent.has(student.id)}
              <button
                class="tap"
                aria-pressed="true"
                aria-label="{student.name} is absent; comes after all"
                onclick={() => setAbsent(student, false)}>Absent</button
              >
            {:else if plannedNow.get(student.id) && !student.open}
              {@const planned = plannedNow.get(student.id)!}
              {@const booth = floor.booths.find((one) => one.id === planned.boothId)!}
              <div class="flex flex-wrap gap-1">
                {#if elsewhere === student.id || taken.has(booth.number) || booth.closedWhy}
                  {#each freeBooths.slice(0, 4) as other (other.id)}<PlannedStart
                      {planned}
                      booth={other}
                    />{/each}
                {:else}
                  <PlannedStart {planned} {booth} />
                  <button
                    class="tap"
                    aria-label="{student.name}: in another booth"
                    onclick={() => (elsewhere = student.id)}>Swap</button
                  >
                {/if}
                <button
                  class="tap"
                  aria-label="{student.name} is absent"
                  onclick={() => setAbsent(student, true)}>Absent</button
                >
              </div>
            {:else if student.expectedToday && !student.open}
              <button
                class="tap"
                aria-label="{student.name} is absent"
                onclick={() => setAbsent(student, true)}>Absent</button
              >
            {/if}
          </td>
          <td class="px-2 py-1 text-right">
            {#if student.open}
              <a class="tap" href="/coupons/{student.open.id}">Bench</a>
            {:else}
              <button
                class="tap whitespace-nowrap"
                aria-label="Start a coupon for {student.name}"
                onclick={() => onstart(student.id)}>Start</button
              >
            {/if}
          </td>
        </tr>
      {:else}
        <tr><td colspan="7" class="p-6 text-center text-(--soft)">Nobody is expected today.</td></tr>
      {/each}
    </tbody>
  </table>
</div>
