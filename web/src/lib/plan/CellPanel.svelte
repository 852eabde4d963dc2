<script lang="ts">
  import { setAway } from '$lib/absence'
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import { hours, points, shortDay } from '$lib/weeks'

  type Props = {
    week: Schema['WeekView']
    student: Schema['PlanStudent']
    slot: number
    cell: Schema['PlannedCell'] | undefined
    onclose: () => void
  }
  let { week, student, slot, cell, onclose }: Props = $props()
  const client = useQueryClient()
  const perDay = $derived(week.periodNames.length)
  const day = $derived(week.days.find((one) => one.slots.includes(slot))?.day ?? week.monday)
  const comes = $derived(student.comes.includes(slot))
  const away = $derived(student.away.includes(slot))
  const booth = $derived(week.booths.find((one) => one.id === cell?.boothId))

  async function put(body: Partial<Schema['EditCell']>) {
    await notices.attempt(async () => {
      await ask(
        api.PUT('/api/weeks/{monday}/cells', {
          params: { path: { monday: week.monday } },
          body: {
            studentId: student.id,
            slot,
            itemId: cell?.itemId ?? null,
            boothId: null,
            fromSlot: null,
            pinned: true,
            ...body,
          },
        }),
      )
      await client.invalidateQueries({ queryKey: ['week'] })
    })
  }

  async function turnAway(away: boolean) {
    await notices.attempt(async () => {
      await setAway(student.id, day, slot % perDay, away)
      await client.invalidateQueries({ queryKey: ['week'] })
    })
  }
</script>

<section class="sheet p-3" aria-label="Cell">
  <div class="flex items-start gap-2">
    <h2 class="text-xl">
      {student.name}, {shortDay(day)}, {week.periodNames[slot % perDay]?.toLowerCase()}
    </h2>
    <button class="plate ml-auto" aria-label="Close" onclick={onclose}>✕</button>
  </div>
  {#if cell}
    <p class="text-lg">
      <strong>{cell.name}</strong> <span class="number">{cell.testId}</span>, booth
      <span class="number text-xl">{booth?.number}</span>
    </p>
    <p>{cell.why}</p>
    {#if cell.kind}
      <p class="text-(--soft)">
        Adds <span class="number">{points(cell.gain)}</span> % to the chance, costs
        <span class="number">{cell.cost.toFixed(0)}</span>.
      </p>
    {/if}
    <div class="mt-2 flex flex-wrap gap-1.5">
      {#if cell.kind}
        <button
          class="plate"
          aria-pressed={cell.pinned}
          onclick={() => put({ pinned: !cell.pinned, boothId: cell.boothId })}
          >{cell.pinned ? 'Pinned' : 'Pin'}</button
        >
        <button class="plate" onclick={() => put({ itemId: null })}>Take out</button>
      {/if}
      <label class="flex items-center gap-1">
        <span class="eyebrow">Booth</span>
        <select
          class="field"
          value={cell.boothId}
          onchange={(event) => put({ boothId: event.currentTarget.value })}
        >
          {#each week.booths as one (one.id)}<option value={one.id}>{one.number}</option>{/each}
        </select>
      </label>
    </div>
  {:else if !comes && !away}
    <p class="text-(--soft)">Does not come in this period.</p>
  {/if}
  {#if comes || away}
    <button class="plate mt-2" aria-pressed={away} onclick={() => turnAway(!away)}
      >{away ? 'Absent: comes after all' : 'Absent'}</button
    >
  {/if}
  {#if comes}
    <h3 class="eyebrow mt-3">Give instead, best for an hour first</h3>
    <ul class="mt-1 grid gap-1">
      {#each student.items as item (item.id)}
        <li>
          <button
            class="plate w-full justify-start text-left"
            aria-pressed={cell?.itemId === item.id}
            onclick={() => put({ itemId: item.id })}
          >
            <span>
              {item.name} <span class="number">{item.testId}</span>
              <span class="block text-sm font-normal"
                >{item.gainPerHour > 0 ? `${points(item.gainPerHour)} % an hour, ` : ''}{hours(item.minutes)},
                costs {item.cost.toFixed(0)}</span
              >
            </span>
          </button>
        </li>
      {:else}
        <li class="text-(--soft)">Nothing can be given.</li>
      {/each}
    </ul>
    {#each student.withheld as why (why)}<p class="mt-1 text-sm text-(--soft)">{why}</p>{/each}
  {/if}
</section>
