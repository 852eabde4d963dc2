<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { percent, stageName } from '$lib/words'
  import { inUnits } from '$lib/units.svelte'

  let { worked, name }: { worked: Schema['WhatWorked'][]; name: string } = $props()
  const FEW = 5
  const shown = $derived(worked.filter((one) => one.variants.length + one.cards.length > 0))
</script>

<section aria-labelledby="worked">
  <h3 id="worked" class="text-lg">What has worked for {name}</h3>
  {#each shown as one (one.testId)}
    <h4 class="number mt-2 text-lg">{one.testId}</h4>
    <ul>
      {#each one.cards as card (`${card.stage} ${card.half} ${card.electrodeClass} ${card.diameterMm}`)}
        <li class="border-t py-1 first:border-t-0">
          {stageName(card.stage)}{card.half ? `, ${card.half}` : ''}: {card.electrodeClass}
          {inUnits(`${card.diameterText} in`)} at
          <strong class="number text-lg">{Math.round(card.amps)} A</strong>{card.volts
            ? `, ${card.volts.toFixed(1)} V`
            : ''}; {card.clean!.cleanPasses} of {card.clean!.passes} passes in a clean stage{card.clean!
            .passes < FEW
            ? '; few yet'
            : ''}.
        </li>
      {/each}
      {#each one.variants as way (way.group)}
        {@const better = way.chanceBetter >= 0.5}
        <li class="border-t py-1">
          {way.group}: {way.first}
          {way.firstClean} of {way.firstCoupons} clean, {way.second}
          {way.secondClean} of {way.secondCoupons}. {percent(
            better ? way.chanceBetter : 1 - way.chanceBetter,
          )} that
          {(better ? way.first : way.second).toLowerCase()} is better{Math.min(
            way.firstCoupons,
            way.secondCoupons,
          ) < FEW
            ? '; few coupons yet'
            : ''}.
        </li>
      {/each}
    </ul>
  {:else}<p class="text-(--soft)">No stage came out clean yet.</p>{/each}
</section>
