<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { setAway } from '$lib/absence'
  import type { Schema } from '$lib/api/client'
  import { changed } from '$lib/changed'
  import { notices } from '$lib/notices.svelte'
  import PlannedStart from '$lib/parts/PlannedStart.svelte'

  let {
    floor,
    waiting,
    plannedNow,
    freeBooths,
    onstart,
  }: {
    floor: Schema['FloorView']
    /** Who is here and has no booth. */
    waiting: readonly Schema['FloorStudent'][]
    plannedNow: ReadonlyMap<string, Schema['FloorPlanned']>
    freeBooths: readonly Schema['BoothView'][]
    onstart: (studentId: string) => void
  } = $props()
  const client = useQueryClient()
  const absent = $derived(new Set(floor.absent))
  let elsewhere = $state<string | null>(null)

  async function setAbsent(student: Schema['FloorStudent'], value: boolean) {
    await notices.attempt(async () => {
      await setAway(student.id, floor.today, null, value)
      await changed(client, 'absence')
      if (value) notices.add(`${student.name} is away today.`, 'done', () => setAbsent(student, false))
    })
  }
</script>

<ul>
  {#each waiting as student (student.id)}
    {@const planned = plannedNow.get(student.id)}
    {@const free = freeBooths.find((one) => one.id === planned?.boothId)}
    <li class="flex flex-wrap items-center gap-x-4 gap-y-1 border-t py-1">
      <a class="min-w-40 grow py-2 leading-tight" href="/students/{student.id}">
        <span class="block font-bold [overflow-wrap:anywhere]">{student.name}</span>
        <span class="text-(--soft)">
          {#if absent.has(student.id)}away today
          {:else if planned}{planned.testId} {planned.name.toLowerCase()}
          {:else if student.open}<span class="stamp">{student.open.stamp}</span> is open, in no booth
          {:else}nothing planned; works toward {student.targetTestId}{/if}
        </span>
      </a>
      {#if absent.has(student.id)}
        <button
          class="bare"
          aria-label="{student.name} is absent; comes after all"
          onclick={() => setAbsent(student, false)}>Here after all</button
        >
      {:else if student.open}
        <a class="plate" href="/coupons/{student.open.id}">Bench</a>
      {:else}
        {#if planned && free && elsewhere !== student.id}
          <PlannedStart {planned} booth={free} />
          <button
            class="bare"
            aria-label="{student.name}: in another booth"
            onclick={() => (elsewhere = student.id)}>Other booth</button
          >
        {:else if planned}
          {#each freeBooths.slice(0, 4) as booth (booth.id)}<PlannedStart {planned} {booth} />{/each}
        {:else}
          <button
            class="plate"
            aria-label="Start a coupon for {student.name}"
            onclick={() => onstart(student.id)}>Start</button
          >
        {/if}
        <button class="bare" aria-label="{student.name} is absent" onclick={() => setAbsent(student, true)}
          >Away</button
        >
      {/if}
    </li>
  {/each}
</ul>
