<script lang="ts">
  import { page } from '$app/state'
  import Acts from '$lib/school/Acts.svelte'
  import Backups from '$lib/school/Backups.svelte'
  import Classes from '$lib/school/Classes.svelte'
  import Devices from '$lib/school/Devices.svelte'
  import Keeping from '$lib/school/Keeping.svelte'
  import People from '$lib/school/People.svelte'
  import Settings from '$lib/school/Settings.svelte'
  import { session } from '$lib/session.svelte'

  const PARTS = [
    { id: 'people', name: 'People and tablets', says: 'who instructs, PINs, shop tablets' },
    { id: 'classes', name: 'Classes', says: 'days, teachers, ends of class' },
    { id: 'backups', name: 'Backups', says: 'the last one, a second folder' },
    { id: 'devices', name: 'Devices', says: 'arc loggers, laboratories' },
    { id: 'acts', name: 'Who did what', says: 'changes, by whom and when' },
    { id: 'keeping', name: 'How long it is kept', says: 'who has left, what was done' },
    { id: 'school', name: 'The school', says: 'name, zone, currency, address' },
  ]
  const part = $derived(page.url.searchParams.get('part') ?? 'people')
</script>

<svelte:head><title>School · Gradus</title></svelte:head>

<h1 class="pt-3 pb-2 text-2xl">{session.view?.school?.name}</h1>
<div class="grid gap-5 lg:grid-cols-[16.5rem_1fr]">
  <nav aria-label="Part of the school" class="flex flex-wrap gap-2 self-start lg:block">
    {#each PARTS as one (one.id)}
      <a
        href="/school?part={one.id}"
        class="side-row block min-h-12 border-t py-2 pr-3 leading-tight"
        data-sveltekit-noscroll
        aria-label={one.name}
        aria-current={part === one.id ? 'page' : undefined}
      >
        <span class="block font-semibold">{one.name}</span>
        <span class="hidden text-sm text-(--soft) lg:block">{one.says}</span>
      </a>
    {/each}
  </nav>
  <div class="min-w-0">
    {#if !session.isLead}
      <p class="mb-3 text-(--soft)">The lead instructor changes people, classes and the school.</p>
    {/if}
    {#if part === 'classes'}<Classes />{:else if part === 'school'}<Settings
      />{:else if part === 'backups'}<Backups />{:else if part === 'acts'}<Acts
      />{:else if part === 'keeping'}<Keeping />{:else if part === 'devices'}<Devices />{:else}<People />{/if}
  </div>
</div>
