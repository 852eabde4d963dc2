<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask } from '$lib/api/client'
  import PatternsView from '$lib/parts/PatternsView.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { classesQuery } from '$lib/queries'
  import { stageName } from '$lib/words'

  const classes = classesQuery()
  let classId = $state<string | null>(null)
  const found = createQuery(() => ({
    queryKey: ['learn', 'class', classId],
    queryFn: () => ask(api.GET('/api/learn/class', { params: { query: { classId: classId ?? undefined } } })),
  }))
</script>

<svelte:head><title>Learn · Gradus</title></svelte:head>

<div class="flex flex-wrap items-center gap-3 pt-4 pb-3">
  <h1 class="text-3xl">What the class needs</h1>
  <div class="ml-auto flex flex-wrap gap-1.5" role="group" aria-label="Class">
    <button class="plate" aria-pressed={classId === null} onclick={() => (classId = null)}>All classes</button
    >
    {#each classes.data ?? [] as one (one.id)}
      <button class="plate" aria-pressed={classId === one.id} onclick={() => (classId = one.id)}
        >{one.name}</button
      >
    {/each}
  </div>
</div>

{#if !found.data}
  <Waiting error={found.error} retry={() => found.refetch()} what="What was learned" />
{:else}
  {@const view = found.data}
  <section class="sheet mb-4 border-l-8 p-4" style:border-left-color="var(--bronze)" aria-labelledby="show">
    <h2 id="show" class="eyebrow">Demonstration of the week</h2>
    {#each view.demonstrate as fault, index (`${fault.kind} ${fault.stage} ${fault.zone}`)}
      <p class={index === 0 ? 'text-2xl' : 'mt-1 text-lg'}>
        {#if index === 1}Then:{/if}
        <b class:font-normal={index > 0}
          >{fault.name}, {stageName(fault.stage).toLowerCase()}{fault.zone ? `, ${fault.zone}` : ''}</b
        >: <span class="number">{fault.students} of {view.students}</span> students,
        <span class="number">{fault.coupons} of {fault.ofCoupons}</span>
        coupons in {view.recentDays} days
        <a
          class="bare ml-2"
          href="/learn/show?kind={fault.kind}&stage={fault.stage}{classId ? `&classId=${classId}` : ''}"
          >A sheet to show it</a
        >
      </p>
    {:else}<p class="text-lg text-(--soft)">
        Nothing was rejected in the last {view.recentDays} days.
      </p>{/each}
  </section>
  <section class="sheet p-4" aria-labelledby="weeks">
    <h2 id="weeks" class="text-xl">The last {Math.round(view.days / 7)} weeks</h2>
    <PatternsView patterns={view.patterns} ofClass />
  </section>
{/if}
