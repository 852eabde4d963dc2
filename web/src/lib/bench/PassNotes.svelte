<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import type { PassExtras } from '$lib/recording'
  import { bareText, celsius, chips, degrees, degreesText, degreeUnit, lengthText } from '$lib/units.svelte'
  import { ENDS, placeText } from './pass-words'

  let {
    coupon,
    extras = $bindable(),
    marking = $bindable(),
  }: { coupon: Schema['CouponView']; extras: PassExtras; marking: 'startAt' | 'stopAt' | null } = $props()
  const heat = $derived(coupon.test.temperatures)
</script>

<div class="mt-3 flex flex-wrap items-center gap-1.5" role="group" aria-label="Below flush after this pass">
  <span class="eyebrow">Below flush now</span>
  {#each chips([0, 2, 4, 6, 8, 12, 16], [0, 8, 16, 24, 32, 48, 64]) as mm (mm)}
    <button
      class="plate number px-2 text-lg"
      aria-pressed={extras.belowFlushMm === mm}
      aria-label="Below flush {lengthText(mm)}"
      onclick={() => (extras.belowFlushMm = extras.belowFlushMm === mm ? null : mm)}>{bareText(mm)}</button
    >
  {/each}
  <label class="flex items-center gap-1">
    <span class="eyebrow">{degreeUnit()} before</span>
    <input
      class="field number w-20 text-lg"
      inputmode="numeric"
      value={extras.interpassC == null ? '' : Math.round(degrees(extras.interpassC))}
      onchange={(event) => {
        const read = Number(event.currentTarget.value)
        extras.interpassC = event.currentTarget.value.trim() && Number.isFinite(read) ? celsius(read) : null
      }}
    />
  </label>
</div>
<div class="mt-2 flex flex-wrap items-center gap-1.5" role="group" aria-label="Start and stop">
  {#each ENDS as [which, name] (which)}
    <button
      class="plate px-2"
      aria-pressed={marking === which}
      onclick={() => {
        if (extras[which] != null) extras[which] = null
        else marking = marking === which ? null : which
      }}
      >{marking === which
        ? `${name}: tap the ${coupon.test.product === 'pipe' ? 'ring' : 'strip'}`
        : extras[which] != null
          ? `${name} at ${placeText(extras[which]!, coupon.test.product)}`
          : `${name} at…`}</button
    >
  {/each}
</div>
{#if heat && extras.interpassC != null && (extras.interpassC < (heat.preheatMinC ?? -Infinity) || extras.interpassC > (heat.interpassMaxC ?? Infinity))}
  <p class="mt-1 font-semibold text-(--caution)">
    {heat.preheatMinC == null ? '' : `${degreesText(heat.preheatMinC)} at least. `}{heat.interpassMaxC == null
      ? ''
      : `${degreesText(heat.interpassMaxC)} at most between passes. `}{heat.source}.
  </p>
{/if}
