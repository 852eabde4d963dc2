<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { codeName } from '$lib/words'
  import Choice from './Choice.svelte'
  import ShopCard from './ShopCard.svelte'
  import { cardValues } from './values.svelte'

  let { formulas }: { formulas: Schema['Formula'][] } = $props()
  type Product = 'plate' | 'pipe'
  type Weld = 'groove' | 'fillet'
  const PRODUCTS: { id: Product; name: string }[] = [
    { id: 'plate', name: 'Plate' },
    { id: 'pipe', name: 'Pipe' },
  ]
  const WELDS: { id: Weld; name: string }[] = [
    { id: 'groove', name: 'Groove' },
    { id: 'fillet', name: 'Fillet' },
  ]
  const values = cardValues('positions', { product: 'plate' as Product, weld: 'groove' as Weld })
  const codes = createQuery(() => ({
    queryKey: ['codes'],
    queryFn: () => ask(api.GET('/api/codes')),
    staleTime: Infinity,
  }))
</script>

<ShopCard id="positions" {formulas} {values} error={codes.error} wide>
  {#snippet fields()}
    <Choice label="Test piece" options={PRODUCTS} bind:value={values.product} />
    <Choice label="Weld" options={WELDS} bind:value={values.weld} />
  {/snippet}
  {#snippet result()}
    <span class="grid gap-4 lg:grid-cols-2 xl:grid-cols-3">
      {#each codes.data ?? [] as code (code.code)}
        <table class="ledger self-start text-sm">
          <caption class="text-left font-semibold">{codeName(code.code)}</caption>
          <thead
            ><tr
              ><th class="pr-2 text-(--soft)">Tested</th>{#if values.weld === 'groove'}<th
                  class="pr-2 text-(--soft)">Plate</th
                ><th class="pr-2 text-(--soft)">Pipe</th>{/if}<th class="text-(--soft)">Fillet</th></tr
            ></thead
          >
          <tbody>
            {#each code.positions.filter((rule) => rule.product === values.product && rule.weld === values.weld) as rule (rule.positions.join('+'))}
              <tr class="border-t align-top">
                <th class="number pr-2 text-base whitespace-nowrap">{rule.positions.join(' + ')}</th>
                {#if values.weld === 'groove'}
                  <td class="number pr-2 text-base">{rule.plateGroove.join(' ')}</td>
                  <td class="number pr-2 text-base">{rule.pipeGroove.join(' ')}</td>
                {/if}
                <td class="number text-base">{rule.fillet.join(' ')}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      {/each}
    </span>
    <p class="mt-2 text-sm text-(--soft)">
      {codes.data?.map((code) => code.source).join('; ')}. Written from memory: check against your edition.
    </p>
  {/snippet}
</ShopCard>
