<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import type { Component } from 'svelte'
  import { goto } from '$app/navigation'
  import { page } from '$app/state'
  import { api, ask, type Schema } from '$lib/api/client'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { session } from '$lib/session.svelte'
  import Beads from '$lib/shop/Beads.svelte'
  import Bend from '$lib/shop/Bend.svelte'
  import Bevel from '$lib/shop/Bevel.svelte'
  import Continuity from '$lib/shop/Continuity.svelte'
  import Cost from '$lib/shop/Cost.svelte'
  import Gap from '$lib/shop/Gap.svelte'
  import GapLeft from '$lib/shop/GapLeft.svelte'
  import Groove from '$lib/shop/Groove.svelte'
  import Heat from '$lib/shop/Heat.svelte'
  import Lens from '$lib/shop/Lens.svelte'
  import Plunger from '$lib/shop/Plunger.svelte'
  import PositionRanges from '$lib/shop/PositionRanges.svelte'
  import Preheat from '$lib/shop/Preheat.svelte'
  import Purge from '$lib/shop/Purge.svelte'
  import Rods from '$lib/shop/Rods.svelte'
  import Travel from '$lib/shop/Travel.svelte'
  import Wire from '$lib/shop/Wire.svelte'

  const CARDS: Record<string, Component<{ formulas: Schema['Formula'][] }>> = {
    bevel: Bevel,
    gap: Gap,
    gapLeft: GapLeft,
    groove: Groove,
    beads: Beads,
    rods: Rods,
    wire: Wire,
    travel: Travel,
    heat: Heat,
    preheat: Preheat,
    purge: Purge,
    bend: Bend,
    plunger: Plunger,
    positions: PositionRanges,
    lens: Lens,
    continuity: Continuity,
    cost: Cost,
  }
  const KEY = 'gradus.shop.open'
  const formulas = createQuery(() => ({
    queryKey: ['formulas'],
    queryFn: () => ask(api.GET('/api/formulas')),
    staleTime: Infinity,
  }))
  // What a coupon costs is for those who may see the school's prices.
  const all = $derived(
    (formulas.data ?? []).filter(
      (one) => CARDS[one.id] && (one.id !== 'cost' || (session.view?.person && !session.isStudent)),
    ),
  )
  const asked = $derived(page.url.searchParams.get('card') ?? localStorage.getItem(KEY))
  const open = $derived(all.find((one) => one.id === asked)?.id ?? 'groove')
  const Card = $derived(CARDS[open]!)
  $effect(() => localStorage.setItem(KEY, open))
</script>

<svelte:head><title>Shop math · Gradus</title></svelte:head>

<div class="flex flex-wrap items-baseline gap-x-4 pt-3 pb-2 print:hidden">
  <h1 class="text-2xl">Shop math</h1>
  <p class="text-(--soft)">Type sizes as the shop writes them: 3/32, 1-1/2 in, 2.4 mm.</p>
</div>
{#if !formulas.data}
  <Waiting error={formulas.error} retry={() => formulas.refetch()} what="Shop math" />
{:else}
  <label class="mb-3 block lg:hidden print:hidden">
    <span class="eyebrow block">Calculation</span>
    <select
      class="field w-full"
      value={open}
      onchange={(event) => goto(`/shop?card=${event.currentTarget.value}`)}
    >
      {#each all as one (one.id)}<option value={one.id}>{one.title}</option>{/each}
    </select>
  </label>
  <div class="grid gap-5 lg:grid-cols-[16.5rem_1fr]">
    <nav aria-label="Calculations" class="hidden self-start lg:block print:hidden">
      {#each all as one (one.id)}
        <a
          href="/shop?card={one.id}"
          class="side-row flex min-h-10 items-center border-t py-1"
          aria-current={one.id === open ? 'page' : undefined}>{one.title}</a
        >
      {/each}
    </nav>
    <div class="max-w-3xl min-w-0">
      {#key open}<Card formulas={all} />{/key}
      <p class="mt-3 text-sm text-(--soft)">
        Local codes, the governing edition and a qualified inspector decide.
      </p>
    </div>
  </div>
{/if}
