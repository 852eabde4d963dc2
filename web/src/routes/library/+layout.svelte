<script lang="ts">
  import { goto } from '$app/navigation'
  import { page } from '$app/state'
  import { blankTest } from '$lib/library/edit/blank'
  import { editing } from '$lib/library/editing.svelte'
  import { profilesQuery, testsQuery } from '$lib/queries'
  import { session } from '$lib/session.svelte'

  let { children } = $props()
  const tests = testsQuery()
  const PARTS = $derived([
    { href: '/library', name: 'Tests' },
    { href: '/library/limits', name: 'Limits' },
    { href: '/library/job', name: 'For a job' },
    ...(session.isStudent ? [] : [{ href: '/library/coach', name: 'Coach' }]),
  ])
  const path = $derived(page.url.pathname)
  const part = $derived(
    path.startsWith('/library/limits')
      ? '/library/limits'
      : path === '/library/job' || path === '/library/coach'
        ? path
        : '/library',
  )
  const shown = $derived(page.params.id)
  const profiles = profilesQuery()
  let wanted = $state('')
  async function begin() {
    editing.open(blankTest(''), null)
    await goto('/library/edit')
  }
  const found = $derived(
    (tests.data ?? []).filter((test) =>
      `${test.id} ${test.title}`.toLowerCase().includes(wanted.trim().toLowerCase()),
    ),
  )
  const products = ['plate', 'sheet', 'pipe'] as const
  const NAMES = { plate: 'Plate', sheet: 'Sheet', pipe: 'Pipe' }
</script>

<div class="flex flex-wrap items-center gap-x-4 pt-3 pb-2 print:hidden">
  <h1 class="text-2xl">Library</h1>
  <nav aria-label="Library" class="flex gap-4">
    {#each PARTS as one (one.href)}
      <a href={one.href} class="way" aria-current={part === one.href ? 'page' : undefined}>{one.name}</a>
    {/each}
  </nav>
  {#if part === '/library'}
    <label class="lg:hidden">
      <span class="sr-only">Test</span>
      <select
        class="field max-w-72"
        value={shown}
        onchange={(event) => goto(`/library/${event.currentTarget.value}`)}
      >
        {#each tests.data ?? [] as test (test.id)}<option value={test.id}>{test.id} {test.title}</option
          >{/each}
      </select>
    </label>
    {#if session.isLead}<button class="plate lg:hidden" onclick={begin}>New</button>{/if}
  {/if}
</div>

{#if part === '/library' && path !== '/library/edit'}
  <div class="grid gap-5 lg:grid-cols-[16.5rem_1fr]">
    <nav
      aria-label="Tests"
      class="sticky top-2 hidden max-h-[calc(100dvh-1rem)] self-start overflow-y-auto lg:block print:hidden"
    >
      <div class="flex gap-1.5">
        <label class="min-w-0 grow">
          <span class="sr-only">Find a test</span>
          <input class="field w-full" type="search" placeholder="6G, socket, R13…" bind:value={wanted} />
        </label>
        {#if session.isLead}<button class="plate" onclick={begin}>New</button>{/if}
      </div>
      {#if wanted && !found.length}<p class="py-2">No test is called so.</p>{/if}
      {#each products as product (product)}
        {@const rows = found.filter((test) => test.product === product)}
        {#if rows.length}
          <p class="eyebrow mt-2">{NAMES[product]}</p>
          {#each rows as test (test.id)}
            <a
              href="/library/{test.id}"
              class="side-row flex min-h-10 items-center gap-2 border-t py-1 leading-tight"
              aria-current={shown === test.id ? 'page' : undefined}
            >
              <span class="number w-9 shrink-0 text-xl">{test.id}</span>
              <span class="text-sm">{test.title}</span>
            </a>
          {/each}
        {/if}
      {/each}
    </nav>
    <div class="min-w-0">{@render children()}</div>
  </div>
{:else if part === '/library/limits'}
  <div class="grid gap-5 lg:grid-cols-[16.5rem_1fr]">
    <nav aria-label="Limits" class="hidden self-start lg:block print:hidden">
      <a
        href="/library/limits"
        class="side-row flex min-h-10 items-center border-t py-1"
        aria-current={shown ? undefined : 'page'}>All, and verdicts of today</a
      >
      {#each profiles.data ?? [] as profile (profile.id)}
        <a
          href="/library/limits/{profile.id}"
          class="side-row flex min-h-10 items-baseline gap-2 border-t py-2 leading-tight"
          aria-current={shown === profile.id ? 'page' : undefined}
        >
          <span class="mr-auto">{profile.name}</span>
          <span class="text-sm text-(--soft)"
            >{!profile.limitsEntered
              ? 'no limits yet'
              : profile.shipped
                ? ''
                : `version ${profile.version}`}</span
          >
        </a>
      {/each}
    </nav>
    <div class="min-w-0">{@render children()}</div>
  </div>
{:else}
  {@render children()}
{/if}
