<script lang="ts">
  import { session } from '$lib/session.svelte'
  import type { Schema } from '$lib/api/client'

  let { costs, name }: { costs: Schema['CostOutlook']; name: string } = $props()
  const NAMES: Record<Schema['SittingStep'], string> = {
    sit: 'Test now',
    practise: 'One more first',
    cutOpen: 'Cut one open first',
  }
  // So many times the price of a failed sitting is no price that a school pays.
  const FAR = 20
  const steps = $derived(
    (['sit', 'practise', 'cutOpen'] as const).map((step) => costs.steps.find((one) => one.step === step)!),
  )
  const most = $derived(Math.max(...steps.map((one) => one.cost)))
  const amount = (value: number) => Math.round(value).toLocaleString('en-GB')
  const money = (value: number) => `${amount(value)} ${session.view?.school?.currency ?? ''}`.trim()
  const pays = $derived(
    costs.breakEven == null || costs.breakEven > FAR * costs.failedSitting
      ? `Waiting buys nothing here, whatever a failed sitting costs.`
      : costs.breakEven > costs.failedSitting
        ? `Practising first pays only if a failed sitting costs over ${money(costs.breakEven)}; by the school's prices it costs ${money(costs.failedSitting)}.`
        : `Practising first pays: a failed sitting costs ${money(costs.failedSitting)}, and over ${money(costs.breakEven)} practice is cheaper.`,
  )
</script>

<p class="sr-only">What it costs in the mean until {name} has passed:</p>
<ul class="grid gap-1">
  {#each steps as one (one.step)}
    <li class="grid grid-cols-[9.4rem_1fr] items-center gap-2">
      <span class={one.step === costs.steps[0]!.step ? 'font-bold' : ''}>{NAMES[one.step]}</span>
      <span class="flex items-center gap-2">
        <i
          class="block h-4"
          style:width="{(one.cost / most) * 70}%"
          style:background={one.step === costs.steps[0]!.step ? 'var(--blue)' : 'var(--cold)'}
        ></i><b class="number text-xl">{amount(one.cost)}</b>
      </span>
    </li>
  {/each}
</ul>
<p class="mt-1.5 text-sm text-(--soft)">{pays}</p>
