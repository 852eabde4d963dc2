<script lang="ts">
  import { page } from '$app/state'
  import { likes } from '$lib/likes.svelte'
  import { locales } from '$lib/paraglide/runtime'
  import { session } from '$lib/session.svelte'
  import Menu from '$lib/ui/Menu.svelte'
  import { units } from '$lib/units.svelte'
  import { notices } from '$lib/notices.svelte'
  import ChangePin from './ChangePin.svelte'
  import StatusLine from './StatusLine.svelte'

  let { onfind, onkeys, onoutbox }: { onfind: () => void; onkeys: () => void; onoutbox: () => void } =
    $props()
  let dark = $state(document.documentElement.classList.contains('dark'))

  // The last ones go into a menu where the bar is narrow.
  const PLACES = $derived(
    session.isStudent
      ? [{ href: '/', name: 'My work' }]
      : [
          { href: '/', name: 'Floor' },
          { href: '/plan', name: 'Plan' },
          { href: '/ready', name: 'Ready' },
          { href: '/sittings', name: 'Sittings' },
          { href: '/learn', name: 'Learn' },
        ],
  )
  const MORE = $derived([
    { href: '/library', name: 'Library' },
    { href: '/shop', name: 'Shop math' },
    ...(session.isStudent ? [] : [{ href: '/school', name: 'School' }]),
  ])
  let pinShown = $state(false)
  const LANGUAGES = locales.map(
    (id) =>
      [
        id,
        new Intl.DisplayNames([id], { type: 'language' }).of(id)!.replace(/^./, (one) => one.toUpperCase()),
      ] as const,
  )
  const isAt = (href: string) =>
    href === '/'
      ? page.url.pathname === '/'
      : page.url.pathname.startsWith(href) ||
        (href === '/sittings' && page.url.pathname.startsWith('/certificates'))
  const current = (href: string) => (isAt(href) ? ('page' as const) : undefined)

  function setDark(value: boolean) {
    dark = value
    document.documentElement.classList.toggle('dark', value)
    localStorage.setItem('gradus.theme', value ? 'dark' : 'light')
  }
</script>

<header class="border-b-2 border-(--steel-edge) bg-(--sheet) print:hidden">
  <div class="mx-auto flex max-w-[1500px] items-stretch gap-x-3 px-5">
    <a
      href="/"
      class="flex min-h-[52px] items-center gap-2 text-xl font-bold tracking-tight"
      aria-label="Gradus, to the floor"
    >
      <img src="/icon.svg" alt="" class="h-8 w-8 shrink-0" /><span class="hidden lg:inline">Gradus</span>
    </a>
    <nav aria-label="Main" class="flex items-stretch">
      {#each PLACES as place (place.href)}
        <a href={place.href} class="way hidden px-2.5 sm:flex" aria-current={current(place.href)}
          >{place.name}</a
        >
      {/each}
      {#each MORE as place (place.href)}
        <a href={place.href} class="way hidden px-2.5 lg:flex" aria-current={current(place.href)}
          >{place.name}</a
        >
      {/each}
      <div class="self-center lg:hidden">
        <Menu left>
          {#snippet button()}<span class={MORE.some((one) => isAt(one.href)) ? 'underline' : ''}
              ><span class="whitespace-nowrap sm:hidden">Go to</span><span class="hidden sm:inline">More</span
              ></span
            >{/snippet}
          {#each PLACES as place (place.href)}
            <a href={place.href} class="bare px-2 sm:hidden" aria-current={current(place.href)}
              >{place.name}</a
            >
          {/each}
          {#each MORE as place (place.href)}
            <a href={place.href} class="bare px-2" aria-current={current(place.href)}>{place.name}</a>
          {/each}
        </Menu>
      </div>
    </nav>
    <div class="ml-auto flex min-w-0 items-center gap-3">
      <StatusLine onopen={onoutbox} />
      {#if !session.isStudent}<button
          class="flex min-h-[48px] min-w-[48px] items-center justify-center gap-2 font-semibold"
          aria-label="Find"
          onclick={onfind}
        >
          <svg viewBox="0 0 20 20" class="w-5" aria-hidden="true"
            ><path
              d="M8 2.5a5.5 5.5 0 1 0 0 11a5.5 5.5 0 0 0 0-11M12.2 12.2L18 18"
              fill="none"
              stroke="currentColor"
              stroke-width="2.2"
            /></svg
          ><span class="hidden xl:inline">Find</span>
        </button>{/if}
      <Menu label="{session.view?.person?.name}: units, theme, keys, sign out">
        {#snippet button()}<span class="max-w-24 truncate xl:max-w-52">{session.view?.person?.name}</span
          >{/snippet}
        <p class="eyebrow px-2">
          {session.view?.school?.name}{session.view?.school?.isDemo ? ' (demo)' : ''}
        </p>
        <div role="group" aria-label="Units" class="grid grid-cols-2 gap-1">
          <button
            class="plate"
            aria-pressed={units.unit === 'in'}
            onclick={() => void notices.attempt(() => likes.read('in'))}>in, °F</button
          >
          <button
            class="plate"
            aria-pressed={units.unit === 'mm'}
            onclick={() => void notices.attempt(() => likes.read('mm'))}>mm, °C</button
          >
        </div>
        <div role="group" aria-label="Language" class="grid grid-cols-2 gap-1">
          {#each LANGUAGES as [id, name] (id)}
            <button
              class="plate"
              lang={id}
              aria-pressed={likes.language === id}
              onclick={() => void notices.attempt(() => likes.speak(id))}>{name}</button
            >
          {/each}
        </div>
        <div role="group" aria-label="Theme" class="grid grid-cols-2 gap-1">
          <button class="plate" aria-pressed={!dark} onclick={() => setDark(false)}>Light</button>
          <button class="plate" aria-pressed={dark} onclick={() => setDark(true)}>Dark</button>
        </div>
        {#if !session.isStudent}
          <a class="bare px-2" href="/?wall">Make this a wall screen</a>
          <button class="bare px-2" data-closes onclick={onkeys}>Keyboard shortcuts</button>
        {/if}
        <button class="bare px-2" data-closes onclick={() => (pinShown = true)}>Change my PIN</button>
        <button class="bare px-2" data-closes onclick={() => void notices.attempt(() => session.lock())}
          >Somebody else is here</button
        >
        <button class="bare px-2" data-closes onclick={() => session.signOut()}>Sign out</button>
      </Menu>
      <ChangePin bind:open={pinShown} />
    </div>
  </div>
</header>
