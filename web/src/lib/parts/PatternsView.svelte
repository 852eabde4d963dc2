<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import WeeksChart from '$lib/parts/WeeksChart.svelte'
  import WorkedList from '$lib/parts/WorkedList.svelte'
  import { hours } from '$lib/weeks'
  import { percent, stageName } from '$lib/words'

  type Props = {
    patterns: Schema['Patterns']
    ofClass?: boolean
    worked?: Schema['WhatWorked'][]
    name?: string
  }
  let { patterns, ofClass = false, worked, name = '' }: Props = $props()
  const most = $derived(Math.max(1, ...patterns.faults.map((fault) => fault.coupons)))
</script>

{#if patterns.coupons === 0}
  <p class="text-(--soft)">Nothing was closed yet: there is nothing to learn from.</p>
{:else}
  <p>
    {patterns.rejected} of {patterns.coupons} closed coupons were rejected{patterns.few
      ? '. These are few: take what follows as a hint'
      : ''}.
  </p>
  {#each patterns.notices as notice (notice.kind)}
    <p class="mt-2 border-l-4 border-(--caution) bg-(--caution-ground) px-3 py-2 font-semibold">
      {notice.says}
      <span class="font-normal"
        >Of students for whom all goes as foreseen, one in twenty at most is ever told so.</span
      >
    </p>
  {/each}
  <div class="mt-3"><WeeksChart weeks={patterns.weeks} /></div>
  <div class="mt-3 grid gap-x-6 gap-y-4 lg:grid-cols-[1.3fr_1fr]">
    <section aria-labelledby="wrong">
      <h3 id="wrong" class="text-lg">What keeps going wrong</h3>
      {#if patterns.faults.length}
        <p class="text-(--soft)">
          The first {Math.min(3, patterns.faults.length)} make up {percent(
            patterns.faults[Math.min(3, patterns.faults.length) - 1]!.share,
          )} of all faults.
        </p>
        <table class="ledger mt-1">
          <thead>
            <tr
              ><th>Fault</th><th>Coupons</th><th class="w-1/4"><span class="sr-only">Bar</span></th><th
                >Before, of late</th
              ></tr
            >
          </thead>
          <tbody>
            {#each patterns.faults as fault (`${fault.kind} ${fault.stage} ${fault.zone}`)}
              <tr class="border-t align-top">
                <td
                  >{fault.name}, {stageName(fault.stage).toLowerCase()}{fault.zone
                    ? `, ${fault.zone}`
                    : ''}{ofClass
                    ? `; ${fault.students} ${fault.students === 1 ? 'student' : 'students'}`
                    : ''}</td
                >
                <td class="number text-lg whitespace-nowrap">{fault.coupons} of {fault.ofCoupons}</td>
                <td class="px-2 py-1.5"
                  ><div
                    class="h-4 bg-(--steel)"
                    style:width="{(fault.coupons / most) * 100}%"
                    aria-hidden="true"
                  ></div></td
                >
                <td class="text-sm"
                  >{fault.earlier} of {fault.earlierOf}, then {fault.later} of {fault.laterOf}</td
                >
              </tr>
            {/each}
          </tbody>
        </table>
      {:else}<p class="text-(--soft)">No fault was rejected.</p>{/if}
    </section>
    <div class="grid content-start gap-4">
      <section aria-labelledby="with">
        <h3 id="with" class="text-lg">What it goes with</h3>
        <ul>
          {#each patterns.goesWith as one (one.condition)}
            <li class="border-t py-1 first:border-t-0">
              {#if one.without > 0}
                <strong class="inline-block first-letter:uppercase">{one.condition}</strong>: {one.withRejected}
                of {one.with}
                rejected, else {one.withoutRejected} of {one.without}. {one.few
                  ? 'Too few to say whether it matters.'
                  : `${percent(one.chanceWorse)} that it is worse with it, against what was foreseen.`}
              {:else}
                {one.withRejected} of {one.with}
                {one.condition}{one.few ? '; few faults' : ''}.
              {/if}
            </li>
          {:else}<li class="text-(--soft)">Nothing to compare yet.</li>{/each}
        </ul>
      </section>
      {#if patterns.toClean.length}
        <section aria-labelledby="clean">
          <h3 id="clean" class="text-lg">Until three were clean in a row</h3>
          <ul>
            {#each patterns.toClean as one (one.stage)}
              <li>
                {stageName(one.stage)}:
                {#if one.coupons}
                  <span class="number text-lg">{one.coupons}</span>
                  {one.coupons === 1 ? 'coupon' : 'coupons'}, {Math.round(one.days!)} days{one.hours
                    ? `, ${hours(60 * one.hours)} in the booth`
                    : ''}
                {:else}not yet, after <span class="number text-lg">{one.couponsSoFar}</span>{/if}
              </li>
            {/each}
          </ul>
        </section>
      {/if}
      {#if worked}<WorkedList {worked} {name} />{/if}
    </div>
  </div>
{/if}
