<script lang="ts">
  import { goto } from '$app/navigation'
  import { page } from '$app/state'
  import Classes from '$lib/school/Classes.svelte'
  import People from '$lib/school/People.svelte'
  import Settings from '$lib/school/Settings.svelte'
  import { session } from '$lib/session.svelte'

  const PARTS = [
    { id: 'people', name: 'People and tablets' },
    { id: 'classes', name: 'Classes' },
    { id: 'school', name: 'The school' },
  ]
  const part = $derived(page.url.searchParams.get('part') ?? 'people')
</script>

<svelte:head><title>School · Gradus</title></svelte:head>

<div class="flex flex-wrap items-center gap-x-5 gap-y-2 pt-3 pb-3">
  <h1 class="text-3xl">{session.view?.school?.name}</h1>
  <div class="flex flex-wrap gap-2" role="group" aria-label="Part of the school">
    {#each PARTS as one (one.id)}
      <button
        class="plate"
        aria-pressed={part === one.id}
        onclick={() => goto(`?part=${one.id}`, { keepFocus: true, noScroll: true })}>{one.name}</button
      >
    {/each}
  </div>
</div>
{#if !session.isLead}
  <p class="mb-3 text-(--soft)">The lead instructor changes people, classes and the school.</p>
{/if}
{#if part === 'classes'}<Classes />{:else if part === 'school'}<Settings />{:else}<People />{/if}
