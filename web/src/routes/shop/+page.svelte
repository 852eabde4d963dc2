<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { onMount, tick } from 'svelte'
  import { page } from '$app/state'
  import { api, ask } from '$lib/api/client'
  import Waiting from '$lib/parts/Waiting.svelte'
  import Beads from '$lib/shop/Beads.svelte'
  import Bend from '$lib/shop/Bend.svelte'
  import Bevel from '$lib/shop/Bevel.svelte'
  import Continuity from '$lib/shop/Continuity.svelte'
  import Gap from '$lib/shop/Gap.svelte'
  import Groove from '$lib/shop/Groove.svelte'
  import Heat from '$lib/shop/Heat.svelte'
  import Lens from '$lib/shop/Lens.svelte'
  import PositionRanges from '$lib/shop/PositionRanges.svelte'
  import Purge from '$lib/shop/Purge.svelte'
  import Rods from '$lib/shop/Rods.svelte'
  import Wire from '$lib/shop/Wire.svelte'

  const formulas = createQuery(() => ({
    queryKey: ['formulas'],
    queryFn: () => ask(api.GET('/api/formulas')),
    staleTime: Infinity,
  }))
  const asked = page.url.searchParams.get('card')

  async function show(card: string, smooth: boolean) {
    await tick()
    const found = document.getElementById(`card-${card}`)
    found?.scrollIntoView({ block: 'start', behavior: smooth ? 'smooth' : 'instant' })
    found?.querySelector<HTMLElement>('input')?.focus({ preventScroll: true })
  }
  onMount(() => {
    if (asked) void formulas.refetch().then(() => show(asked, false))
  })
</script>

<svelte:head><title>Shop math · Gradus</title></svelte:head>

<div class="flex flex-wrap items-baseline gap-x-4 pt-3 pb-2 print:hidden">
  <h1 class="text-2xl">Shop math</h1>
  <p class="text-(--soft)">Type sizes as the shop writes them: 3/32, 1-1/2 in, 2.4 mm.</p>
</div>
{#if !formulas.data}
  <Waiting error={formulas.error} retry={() => formulas.refetch()} what="Shop math" />
{:else}
  {@const all = formulas.data}
  <nav aria-label="Calculations" class="flex flex-wrap gap-1.5 pb-3 print:hidden">
    {#each all as formula (formula.id)}
      <button class="plate px-2" onclick={() => show(formula.id, true)}>{formula.title}</button>
    {/each}
  </nav>
  <div class="grid items-stretch gap-4 md:grid-cols-2 xl:grid-cols-3">
    <Groove formulas={all} />
    <Bevel formulas={all} />
    <Gap formulas={all} />
    <Beads formulas={all} />
    <Rods formulas={all} />
    <Wire formulas={all} />
    <Heat formulas={all} />
    <Purge formulas={all} />
    <Bend formulas={all} />
    <Lens formulas={all} />
    <Continuity formulas={all} />
    <PositionRanges formulas={all} />
  </div>
  <p class="mt-3 text-sm text-(--soft)">
    Local codes, the governing edition and a qualified inspector decide.
  </p>
{/if}
