<script lang="ts">
  import '../app.css'
  import { QueryClient, QueryClientProvider } from '@tanstack/svelte-query'
  import { changed } from '$lib/changed'
  import { onMount } from 'svelte'
  import { goto } from '$app/navigation'
  import { Refused } from '$lib/api/client'
  import FindDialog from '$lib/parts/FindDialog.svelte'
  import FirstRun from '$lib/parts/FirstRun.svelte'
  import KeysDialog from '$lib/parts/KeysDialog.svelte'
  import NoticeList from '$lib/parts/NoticeList.svelte'
  import SignIn from '$lib/parts/SignIn.svelte'
  import SignInForm from '$lib/parts/SignInForm.svelte'
  import TopBar from '$lib/parts/TopBar.svelte'
  import StatusLine from '$lib/parts/StatusLine.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import Modal from 'flowbite-svelte/Modal.svelte'
  import { live } from '$lib/live.svelte'
  import { outbox } from '$lib/outbox.svelte'
  import OutboxDialog from '$lib/parts/OutboxDialog.svelte'
  import { session } from '$lib/session.svelte'
  import { units } from '$lib/units.svelte'

  let { children } = $props()
  let failed = $state<unknown>(null)
  let finding = $state(false)
  let keysShown = $state(false)
  let outboxShown = $state(false)

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
    } catch (error) {
      failed = error
    }
    document.getElementById('frame')?.remove()
  }
  onMount(() => {
    void load()
    outbox.onsent = () => void changed(client, 'coupon')
    void outbox.open()
  })

  async function onSignedIn() {
    await client.invalidateQueries()
    await outbox.flush().catch(() => {})
  }

  const signedIn = $derived(session.view?.instructor != null)
  $effect(() => {
    if (signedIn && !session.expired) live.open(client)
    else live.close()
  })

  let pendingG = false
  function onkeydown(event: KeyboardEvent) {
    const typing = (event.target as HTMLElement).closest('input, textarea, select, [contenteditable]')
    if ((event.key === 'k' && (event.ctrlKey || event.metaKey)) || (event.key === '/' && !typing)) {
      event.preventDefault()
      finding = true
    } else if (typing || event.ctrlKey || event.metaKey || event.altKey) {
      return
    } else if (event.key === '?') {
      keysShown = true
    } else if (event.key === 'g') {
      pendingG = true
      setTimeout(() => (pendingG = false), 1200)
    } else if (event.key === 'f' && pendingG) {
      goto('/')
    } else if (event.key === 'p' && pendingG) {
      goto('/plan')
    } else if (event.key === 't' && pendingG) {
      goto('/library')
    } else if (event.key === 'm' && pendingG) {
      goto('/shop')
    } else if (event.key === 'u') {
      units.set(units.unit === 'in' ? 'mm' : 'in')
    }
  }
</script>

<svelte:window {onkeydown} />

<QueryClientProvider {client}>
  {#if !session.view?.instructor}<StatusLine long onopen={() => (outboxShown = true)} />{/if}
  {#if !session.view}
    <main><Waiting error={failed} retry={load} what="Gradus" /></main>
  {:else if !session.view.school}
    <FirstRun />
  {:else if !session.view.instructor}
    <SignIn view={session.view} onsignedin={onSignedIn} />
  {:else}
    <a href="#main" class="plate sr-only focus:not-sr-only focus:absolute focus:z-50">Skip to the page</a>
    <TopBar
      onfind={() => (finding = true)}
      onkeys={() => (keysShown = true)}
      onoutbox={() => (outboxShown = true)}
    />
    <main id="main" class="mx-auto max-w-[1500px] px-5 pb-[calc(6rem+var(--foot,0px))]">
      {@render children()}
    </main>
    <FindDialog bind:open={finding} />
    <KeysDialog bind:open={keysShown} />
    <Modal open={session.expired} title="Your session has ended" size="md" dismissable={false}>
      <p class="mb-3">The page stays as it is. Sign in, and go on.</p>
      <SignInForm view={session.view} onsignedin={onSignedIn} />
    </Modal>
  {/if}
  <OutboxDialog bind:open={outboxShown} />
  <NoticeList />
</QueryClientProvider>
