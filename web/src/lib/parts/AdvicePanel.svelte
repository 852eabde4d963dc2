<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { adviceName, percent } from '$lib/words'

  let { grounds, onsafety }: { grounds: Schema['Grounds']; onsafety: (signed: boolean) => void } = $props()
  const advice = $derived(grounds.advice)
  const cheapest = $derived(advice.ahead.reduce((low, one) => (one.cost < low.cost ? one : low)))
  const most = $derived(Math.max(...advice.ahead.map((one) => one.cost)))
</script>

<section
  class="sheet border-l-8 p-4"
  style:border-left-color={advice.kind === 'testNow'
    ? 'var(--blue)'
    : advice.kind === 'practise'
      ? 'var(--straw)'
      : 'var(--caution)'}
  aria-labelledby="advice"
>
  <h2 id="advice" class="text-2xl">
    {advice.kind === 'practise'
      ? `Practise ${advice.coupons} more full ${advice.coupons === 1 ? 'coupon' : 'coupons'}`
      : adviceName(advice.kind)}
  </h2>
  <ul class="mt-1 list-disc pl-5">
    {#each advice.reasons as reason (reason)}<li>{reason}</li>{/each}
  </ul>
  <h3 class="eyebrow mt-3">What would change it</h3>
  <ul class="list-disc pl-5">
    {#each advice.wouldChange as change (change)}<li>{change}</li>{/each}
  </ul>
  <h3 class="eyebrow mt-3">Gates</h3>
  <ul>
    {#each advice.gates as gate (gate.id)}
      <li class="flex items-start gap-2 py-0.5">
        <span class="number w-16 shrink-0 font-bold" class:text-(--caution)={!gate.met}
          >{gate.met ? 'met' : 'not met'}</span
        >
        <span>{gate.asks}</span>
        {#if gate.id === 'safetySignOff'}
          <button class="plate ml-auto shrink-0 px-2 text-sm" onclick={() => onsafety(!gate.met)}
            >{gate.met ? 'Take back' : 'Sign off safety'}</button
          >
        {/if}
      </li>
    {/each}
  </ul>
  {#if advice.run.clean > 0}
    <p class="mt-2">
      {advice.run.clean} clean in a row under test rules. That alone shows, with 90 % confidence, a chance of at
      least {percent(advice.run.reliability90)}.
    </p>
  {/if}
  <details class="mt-3">
    <summary class="cursor-pointer font-semibold">Cost of practising first</summary>
    <p class="text-(--soft)">
      Cheapest: {cheapest.coupons} more coupons first. A coupon counts {grounds.policy.couponCost}, a sitting {grounds
        .policy.sittingCost}; the sitting is repeated until it is passed.
    </p>
    <table class="ledger mt-1">
      <thead><tr><th>More coupons</th><th>Chance then</th><th colspan="2">Expected cost</th></tr></thead>
      <tbody>
        {#each advice.ahead as one (one.coupons)}
          <tr class="border-t" class:font-bold={one === cheapest}>
            <td class="number">{one.coupons}</td>
            <td class="number">{percent(one.chance)}</td>
            <td class="number w-16">{one.cost.toFixed(0)}</td>
            <td class="w-1/3"
              ><div
                class="h-3"
                style:width="{(one.cost / most) * 100}%"
                style:background={one === cheapest ? 'var(--blue)' : 'var(--steel)'}
              ></div></td
            >
          </tr>
        {/each}
      </tbody>
    </table>
  </details>
  <a class="plate mt-3 text-sm" href="/ready/policy/{grounds.test.id}">Policy for {grounds.test.id}</a>
</section>
