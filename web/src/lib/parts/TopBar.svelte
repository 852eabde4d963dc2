<script lang="ts">
  import { page } from '$app/state'
  import { session } from '$lib/session.svelte'
  import { units } from '$lib/units.svelte'

  let { onfind, onkeys }: { onfind: () => void; onkeys: () => void } = $props()
  let dark = $state(document.documentElement.classList.contains('dark'))

  const PLACES = [
    { href: '/', name: 'Floor' },
    { href: '/plan', name: 'Plan' },
    { href: '/ready', name: 'Ready' },
    { href: '/learn', name: 'Learn' },
    { href: '/library', name: 'Library' },
    { href: '/shop', name: 'Shop math' },
  ]
  const isAt = (href: string) =>
    href === '/' ? page.url.pathname === '/' : page.url.pathname.startsWith(href)

  function setDark(value: boolean) {
    dark = value
    document.documentElement.classList.toggle('dark', value)
    localStorage.setItem('gradus.theme', value ? 'dark' : 'light')
  }
</script>

<header class="border-b-2 border-(--steel-edge) bg-(--sheet)">
  <div class="mx-auto flex max-w-[1500px] flex-wrap items-center gap-x-3 gap-y-1 px-5 py-1.5">
    <a
      href="/"
      class="flex items-center gap-2 text-xl font-bold tracking-tight"
      aria-label="Gradus, to the floor"
    >
      <img src="/icon.svg" alt="" class="h-8 w-8" />Gradus
    </a>
    <nav aria-label="Main">
      {#each PLACES as place (place.href)}
        <a
          href={place.href}
          class="tap border-transparent bg-transparent px-2"
          aria-current={isAt(place.href) ? 'page' : undefined}>{place.name}</a
        >
      {/each}
    </nav>
    <p class="eyebrow hidden min-w-0 truncate 2xl:block">
      {session.view?.school?.name}{session.view?.school?.isDemo ? ' (demo)' : ''}
    </p>
    <div class="ml-auto flex items-center gap-2">
      <button class="tap" onclick={onfind}
        >Find <kbd class="number hidden text-(--soft) md:inline">/</kbd></button
      >
      <div role="group" aria-label="Lengths in" class="flex">
        <button class="tap rounded-r-none" aria-pressed={units.unit === 'in'} onclick={() => units.set('in')}
          >in</button
        >
        <button
          class="tap rounded-l-none border-l-0"
          aria-pressed={units.unit === 'mm'}
          onclick={() => units.set('mm')}>mm</button
        >
      </div>
      <button class="tap" aria-pressed={dark} onclick={() => setDark(!dark)}>Dark</button>
      <button class="tap hidden md:inline-flex" aria-label="Keyboard shortcuts" onclick={onkeys}>?</button>
      <button class="tap" onclick={() => session.signOut()}>
        <span class="max-w-40 truncate">{session.view?.instructor?.name}</span><span class="text-(--soft)"
          >out</span
        >
      </button>
    </div>
  </div>
</header>

<style>
  [aria-current='page'] {
    border-bottom: 4px solid var(--bronze);
    border-radius: 0;
  }
</style>
