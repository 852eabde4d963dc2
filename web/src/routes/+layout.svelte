<script lang="ts">
  import '../app.css'
  import { QueryClient, QueryClientProvider } from '@tanstack/svelte-query'
  import { changed } from '$lib/changed'
  import { onMount } from 'svelte'
  import { goto } from '$app/navigation'
  import { page } from '$app/state'
  import { api, ask, Refused } from '$lib/api/client'
  import { listen, takers, type Typed } from '$lib/keyed'
  import BackupLine from '$lib/parts/BackupLine.svelte'
  import ClockLine from '$lib/parts/ClockLine.svelte'
  import FindDialog from '$lib/parts/FindDialog.svelte'
  import KeysDialog from '$lib/parts/KeysDialog.svelte'
  import NoticeList from '$lib/parts/NoticeList.svelte'
  import SignIn from '$lib/parts/SignIn.svelte'
  import SignDialog from '$lib/parts/SignDialog.svelte'
  import SignInForm from '$lib/parts/SignInForm.svelte'
  import TopBar from '$lib/parts/TopBar.svelte'
  import StatusLine from '$lib/parts/StatusLine.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import Dialog from '$lib/ui/Dialog.svelte'
  import { foot } from '$lib/ui/foot.svelte'
  import { modal } from '$lib/ui/modal.svelte'
  import { live } from '$lib/live.svelte'
  import { offline } from '$lib/offline.svelte'
  import { outbox } from '$lib/outbox.svelte'
  import OutboxDialog from '$lib/parts/OutboxDialog.svelte'
  import { readAhead } from '$lib/read-ahead'
  import { session } from '$lib/session.svelte'
  import { likes } from '$lib/likes.svelte'
  import { notices } from '$lib/notices.svelte'
  import { units } from '$lib/units.svelte'

  let { children } = $props()
  let failed = $state<unknown>(null)
  let finding = $state(false)
  let keysShown = $state(false)
  let outboxShown = $state(false)
  /** A wall screen that is to be something else again. */
  let leaving = $state(false)

  /** Who was here last. */
  let before: string | undefined

  const AT_REST_MS = 5_000
  const client = new QueryClient({
    defaultOptions: {
      queries: {
        retry: (count, error) => !(error instanceof Refused) && count < 2,
        networkMode: 'always',
        staleTime: 2_000,
      },
    },
  })

  async function load() {
    failed = null
    try {
      await session.load()
      before = session.view?.person?.id
    } catch (error) {
      failed = error
    }
    document.getElementById('frame')?.remove()
  }
  onMount(() => {
    void load()
    outbox.onsent = () => void changed(client, 'coupon')
    void outbox.open()
    void offline.open()
    // For when the network goes: what is opened then has to be here already.
    const later = setTimeout(() => void modal.load().catch(() => {}), AT_REST_MS)
    return () => clearTimeout(later)
  })

  async function onSignedIn() {
    leaving = false
    // What one saw is not another's to see.
    if (session.view?.person?.id !== before) {
      client.removeQueries({ type: 'inactive' })
      await readAhead.forget()
      void client.resetQueries()
    } else await client.invalidateQueries()
    before = session.view?.person?.id
    await outbox.flush().catch(() => {})
  }

  const isOpenToStudents = (path: string) => path === '/' || /^\/(coupons|library|shop)(\/|$)/.test(path)
  $effect(() => {
    if (session.isStudent && !session.expired && !isOpenToStudents(page.url.pathname)) void goto('/')
  })

  // What the floor is worked with is read ahead once the page is at rest.
  $effect(() => {
    if (!session.view?.person || session.expired) return
    const later = setTimeout(() => void offline.warm(), AT_REST_MS)
    return () => clearTimeout(later)
  })

  // A tablet of the shop that nobody touches asks who is there.
  let touched = Date.now()
  const touch = () => (touched = Date.now())
  $effect(() => {
    const minutes = session.view?.tablet != null && signedIn ? session.view.idleMinutes : null
    if (minutes == null) return
    touch()
    const watch = setInterval(() => {
      if (!session.expired && Date.now() - touched > minutes * 60_000) void session.lock().catch(() => {})
    }, 5_000)
    return () => clearInterval(watch)
  })

  const signedIn = $derived(session.view?.person != null)
  const staff = $derived(signedIn && !session.isStudent)
  $effect(() => {
    if (staff && !session.expired) live.open(client)
    else live.close()
  })

  // A scanner and a gauge are keyboards that are faster than a hand.
  function typed(one: Typed): boolean {
    if (!signedIn) return false
    if (one.kind === 'place') void goto(one.path)
    else if (one.kind === 'stamp') void openStamp(one.stamp)
    else {
      const taker = takers.give(one.text)
      if (!taker) notices.add(`${one.text} came from a gauge; no field waits for it.`, 'caution')
      else notices.add(`${taker.label}: ${one.text} from the gauge.`)
    }
    return true
  }
  async function openStamp(stamp: string) {
    await notices.attempt(async () => {
      const { coupons } = await ask(api.GET('/api/find', { params: { query: { q: stamp } } }))
      const coupon = coupons.find((one) => one.stamp === stamp)
      if (coupon) await goto(`/coupons/${coupon.id}`)
      else notices.add(`There is no coupon ${stamp}.`, 'caution')
    })
  }
  onMount(() => listen(window, typed))

  const G_HOLDS_MS = 1200
  let lastG = -Infinity
  function onkeydown(event: KeyboardEvent) {
    const afterG = event.timeStamp - lastG < G_HOLDS_MS
    const typing = (event.target as HTMLElement).closest('input, textarea, select, [contenteditable]')
    if (!staff || document.querySelector('dialog[open]')) return
    if ((event.key === 'k' && (event.ctrlKey || event.metaKey)) || (event.key === '/' && !typing)) {
      event.preventDefault()
      finding = true
    } else if (typing || event.ctrlKey || event.metaKey || event.altKey) {
      return
    } else if (event.key === '?') {
      keysShown = true
    } else if (event.key === 'g') {
      lastG = event.timeStamp
    } else if (event.key === 'f' && afterG) {
      goto('/')
    } else if (event.key === 'p' && afterG) {
      goto('/plan')
    } else if (event.key === 't' && afterG) {
      goto('/library')
    } else if (event.key === 'm' && afterG) {
      goto('/shop')
    } else if (event.key === 'u') {
      void notices.attempt(() => likes.read(units.unit === 'in' ? 'mm' : 'in'))
    }
  }
</script>

<svelte:window {onkeydown} onpointerdown={touch} onkeydowncapture={touch} />

<QueryClientProvider {client}>
  {#if !signedIn && !session.view?.wall}<StatusLine long onopen={() => (outboxShown = true)} />{/if}
  {#if !session.view}
    <main><Waiting error={failed} retry={load} what="Gradus" /></main>
  {:else if !session.view.school}
    {#await import('$lib/parts/FirstRun.svelte') then { default: FirstRun }}<FirstRun />{/await}
  {:else if session.view.wall && !leaving}
    <main>
      {#await import('$lib/floor/WallScreen.svelte') then { default: WallScreen }}<WallScreen />{/await}
      <p class="fixed right-3 bottom-1">
        <button class="bare" onclick={() => (leaving = true)}>Sign in</button>
      </p>
    </main>
  {:else if !session.view.person}
    <SignIn view={session.view} onsignedin={onSignedIn} />
  {:else}
    <a href="#main" class="plate sr-only focus:not-sr-only focus:absolute focus:z-50">Skip to the page</a>
    <TopBar
      onfind={() => (finding = true)}
      onkeys={() => (keysShown = true)}
      onoutbox={() => (outboxShown = true)}
    />
    {#if session.isStudent && !isOpenToStudents(page.url.pathname)}
      <main id="main" class="px-5 pt-4"><p>Going to your own page.</p></main>
    {:else if page.url.searchParams.has('wall') && staff}
      <main id="main">
        {#await Promise.all( [import('$lib/floor/HangWall.svelte'), import('$lib/floor/WallScreen.svelte')] ) then [{ default: HangWall }, { default: WallScreen }]}
          <HangWall />
          <WallScreen />
        {/await}
      </main>
    {:else}
      <main id="main" class="mx-auto max-w-[1500px] px-5" style:padding-bottom="calc(6rem + {foot.px}px)">
        <BackupLine />
        <ClockLine />
        {@render children()}
      </main>
    {/if}
    <FindDialog bind:open={finding} />
    <KeysDialog bind:open={keysShown} />
    {#if offline.newPage}
      <p
        class="fixed right-3 bottom-3 z-40 flex items-center gap-3 border-2 border-(--steel-edge) bg-(--sheet) px-3 py-2 print:hidden"
        role="status"
      >
        A newer Gradus is here.
        <button class="plate" onclick={() => void offline.takeOver()}
          >{outbox.waiting.length ? `Send ${outbox.waiting.length} and take it` : 'Take it'}</button
        >
      </p>
    {/if}
    <SignDialog />
    <Dialog
      open={session.expired}
      title={session.locked ? 'Who is here?' : 'Your session has ended'}
      size="md"
      dismissable={false}
    >
      <p class="mb-3">
        {session.locked
          ? `${session.view.person.name} is signed out. Whoever signs in goes on.`
          : 'The page stays as it is. Sign in, and go on.'}
      </p>
      <SignInForm view={session.view} onsignedin={onSignedIn} />
    </Dialog>
  {/if}
  <OutboxDialog bind:open={outboxShown} />
  <NoticeList />
</QueryClientProvider>
