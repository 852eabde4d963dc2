<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { stageName } from '$lib/words'
  import Mark from '$lib/ui/Mark.svelte'

  let { test }: { test: Schema['StudentTest'] } = $props()
  const SHOWN = 3
  const RETURNS = 2
  const back = $derived(test.faults.filter((fault) => fault.coupons >= RETURNS))
</script>

<ul>
  {#each back.slice(0, SHOWN) as fault (`${fault.kind}-${fault.stage}`)}
    <li class="grid min-h-12 grid-cols-[1fr_auto] items-center gap-2 border-t py-1 first:border-t-0">
      <span class="leading-tight"
        ><b>{fault.name}</b>
        <span class="text-(--soft)">{stageName(fault.stage).toLowerCase()}</span><span
          class="block text-sm text-(--soft)">{fault.coupons} of the last {fault.ofCoupons}</span
        ></span
      >
      <span class="flex flex-wrap gap-0.5" aria-hidden="true"
        >{#each { length: fault.coupons }, index (index)}<Mark of="fault" />{/each}</span
      >
    </li>
  {:else}
    <li class="py-2 text-(--soft)">
      {test.whole.coupons === 0
        ? 'No whole coupon on this test yet.'
        : test.faults.length === 0
          ? 'Nothing was rejected of late.'
          : `Nothing came back; once each of late: ${test.faults.map((fault) => `${fault.name.toLowerCase()}, ${stageName(fault.stage).toLowerCase()}`).join('; ')}.`}
    </li>
  {/each}
</ul>
