<script lang="ts">
  import { api, ask, type Schema } from '$lib/api/client'
  import { testsQuery } from '$lib/queries'
  import { session } from '$lib/session.svelte'
  import { digits, inUnits, lengthText, MASS, quantityText } from '$lib/units.svelte'
  import { live } from './live'
  import Row from './Row.svelte'
  import ShopCard from './ShopCard.svelte'
  import { cardValues } from './values.svelte'

  let { formulas }: { formulas: Schema['Formula'][] } = $props()
  const values = cardValues('cost', { testId: 'P1' })
  const tests = testsQuery()
  const answer = live(
    'cost',
    () => values,
    () => ask(api.POST('/api/calc/cost', { body: { testId: values.testId, choices: null, drillId: null } })),
  )
  const money = (amount: number) => `${amount.toFixed(2)} ${session.view?.school?.currency ?? ''}`.trim()
  const amount = (draw: Schema['StockDraw']) =>
    draw.unit === 'kg'
      ? quantityText(draw.amount, MASS)
      : draw.unit === 'mm'
        ? lengthText(draw.amount)
        : `${digits(draw.amount)} ${draw.unit}`
</script>

<ShopCard id="cost" {formulas} {values} error={answer.error}>
  {#snippet fields()}
    <label class="col-span-full">
      <span class="eyebrow block">Test</span>
      <select class="field w-full" bind:value={values.testId}>
        {#each tests.data ?? [{ id: values.testId, title: '' }] as test (test.id)}
          <option value={test.id}>{test.id} {inUnits(test.title)}</option>
        {/each}
      </select>
    </label>
  {/snippet}
  {#snippet result()}
    {#if answer.data}
      <table class="ledger w-full">
        <tbody>
          {#each answer.data.draws as draw (draw.stock)}
            <tr class="border-t">
              <th class="py-0.5 font-normal">{inUnits(draw.stock)}</th>
              <td class="number text-right">{amount(draw)}</td>
              <td class="number text-right">{money(draw.cost)}</td>
            </tr>
          {/each}
          <tr class="border-t">
            <th class="py-0.5 font-normal">Booth</th>
            <td class="number text-right">{Math.round(answer.data.boothMinutes)} min</td>
            <td class="number text-right">{money(answer.data.boothCost)}</td>
          </tr>
        </tbody>
      </table>
      <Row name="One coupon">{money(answer.data.totalCost)}</Row>
      <p class="text-sm text-(--soft)">
        At the school's own prices (<a class="underline" href="/plan/setup">change them</a>); what your logs
        show takes their place when the week is planned.
      </p>
    {/if}
  {/snippet}
</ShopCard>
