<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { weekQuery } from '$lib/queries'
  import { session } from '$lib/session.svelte'
  import { longDay, mondayOf, todayIn, weekAfter } from '$lib/weeks'
  import { ticking } from '$lib/ticking.svelte'

  type Props = {
    studentId: string
    open: Schema['CouponRow'] | undefined
    way: Schema['WayView'] | undefined
  }
  let { studentId, open, way }: Props = $props()
  const today = $derived(todayIn(session.timeZone, new Date(ticking.now)))
  const week = weekQuery(() => mondayOf(today))
  const following = weekQuery(() => weekAfter(mondayOf(today), 1))
  const SHOWN = 3

  type Planned = {
    key: string
    when: string
    booth: number | undefined
    name: string
    why: string
    test: string
  }
  const planned = (view: Schema['WeekView'] | undefined): Planned[] =>
    (view?.cells ?? [])
      .filter((cell) => cell.studentId === studentId)
      .flatMap((cell) => {
        const day = view!.days.find((one) => one.slots.includes(cell.slot))
        if (!day || cell.slot < view!.firstOpen) return []
        const period = view!.periodNames[cell.slot % view!.periodNames.length] ?? ''
        return [
          {
            key: `${day.day} ${cell.slot}`,
            when: `${day.day === today ? 'Today' : longDay(day.day).replace(/ \d+ \w+$/, '')} ${period.toLowerCase()}`,
            booth: view!.booths.find((booth) => booth.id === cell.boothId)?.number,
            name: cell.name,
            why: cell.why,
            test: cell.testId,
          },
        ]
      })
  const cells = $derived(
    [...planned(week.data), ...planned(following.data)].slice(0, open ? SHOWN - 1 : SHOWN),
  )
  const best = $derived(cells.length === 0 ? (way?.items ?? []).slice(0, open ? SHOWN - 1 : SHOWN) : [])
</script>

<ul>
  {#if open}
    <li class="-mx-2 bg-(--straw-ground) px-2">
      <a class="grid min-h-12 grid-cols-[6rem_2rem_1fr] items-center gap-2 py-1" href="/coupons/{open.id}">
        <span>Now</span><span></span>
        <span class="leading-tight"
          ><b class="block"
            >{open.drillId ? 'Drill' : 'Whole coupon'}, {open.asTest ? 'as test' : 'coached'}</b
          ><span class="text-sm text-(--soft)"><span class="stamp">{open.stamp}</span>, {open.testId}</span
          ></span
        >
      </a>
    </li>
  {/if}
  {#each cells as cell (cell.key)}
    <li class="grid min-h-12 grid-cols-[6rem_2rem_1fr] items-center gap-2 border-t py-1 first:border-t-0">
      <span class="leading-tight">{cell.when}</span>
      <b class="number text-xl" title="Booth">{cell.booth ?? ''}</b>
      <span class="leading-tight"
        ><b class="block"><span class="number">{cell.test}</span> {cell.name}</b><span
          class="line-clamp-2 text-sm text-(--soft)">{cell.why}</span
        ></span
      >
    </li>
  {/each}
  {#each best as { item } (item.id)}
    <li class="border-t py-1.5 leading-tight first:border-t-0">
      <b class="block"><span class="number">{item.testId}</span> {item.name}</b><span
        class="line-clamp-2 text-sm text-(--soft)">{item.why}</span
      >
    </li>
  {/each}
  {#if !open && cells.length + best.length === 0}
    <li class="py-2 text-(--soft)">
      Nothing is planned. <a class="underline" href="/plan">Plan the week</a>
    </li>
  {/if}
</ul>
{#if best.length}<p class="text-sm text-(--soft)">No period is planned: this would add most.</p>{/if}
