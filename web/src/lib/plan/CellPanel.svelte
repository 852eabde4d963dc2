<script lang="ts">
  import { setAway } from '$lib/absence'
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import { session } from '$lib/session.svelte'
  import { dayAfter, hours, points, shortDay } from '$lib/weeks'
  import { outcome, OUTCOMES } from './board'

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
  const day = $derived(dayAfter(week.monday, Math.floor(slot / perDay)))
  const past = $derived(slot < week.firstOpen)
  const made = $derived(week.done.find((one) => one.studentId === student.id && one.slot === slot))
  const comes = $derived(student.comes.includes(slot))
  const away = $derived(student.away.includes(slot))
  const came = $derived(past || made ? outcome(cell, made, away) : null)
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
    {#if cell.parts && cell.parts.length > 1}
      <ul class="mt-1">
        {#each cell.parts as part (part.drillId)}
          <li>
            {part.name}{part.times > 1 ? `, ${part.times} times` : ''}
            <span class="text-(--soft)">{hours(part.minutes)}</span>
          </li>
        {/each}
      </ul>
    {/if}
    {#if cell.kind}
      <p class="text-(--soft)">
        Adds <span class="number">{points(cell.gain)}</span> % to the chance, costs
        <span class="number">{session.money(cell.cost)}</span>.
      </p>
    {/if}
  {/if}
  {#if came}
    <p>
      Came of it: <strong>{OUTCOMES[came]}</strong>{#if made}&nbsp;({made.clean} of {made.made} clean){/if}.
      {#if made}<a class="bare" href="/coupons/{made.couponId}">Open the coupon</a>{/if}
    </p>
  {/if}
  {#if cell && !past}
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
  {:else if !cell && !comes && !away}
    <p class="text-(--soft)">Does not come in this period.</p>
  {/if}
  {#if comes || away}
    <button class="plate mt-2" aria-pressed={away} onclick={() => turnAway(!away)}
      >{away ? 'Absent: comes after all' : 'Absent'}</button
    >
  {/if}
  {#if comes && !past}
    <h3 class="eyebrow mt-3">{cell ? 'Give instead' : 'Give'}: what is asked for, then best for an hour</h3>
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
                >{item.asked > 0 ? 'asked for, ' : ''}{item.gainPerHour > 0
                  ? `${points(item.gainPerHour)} % an hour, `
                  : ''}{hours(item.minutes)}, costs {session.money(item.cost)}</span
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
