<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query'
  import Dialog from '$lib/ui/Dialog.svelte'
  import { goto } from '$app/navigation'
  import { api, ask } from '$lib/api/client'
  import { shortDay } from '$lib/weeks'
  import { verdictName } from '$lib/words'

  let { open = $bindable() }: { open: boolean } = $props()
  const PAUSE_MS = 150
  let text = $state('')
  /** What is looked for, once the typing pauses. */
  let wanted = $state('')
  let at = $state(0)

  const found = createQuery(() => ({
    queryKey: ['find', wanted],
    queryFn: () => ask(api.GET('/api/find', { params: { query: { q: wanted } } })),
    enabled: open && wanted !== '',
    placeholderData: keepPreviousData,
  }))

  $effect(() => {
    const typed = text.trim()
    const timer = setTimeout(() => (wanted = typed), PAUSE_MS)
    return () => clearTimeout(timer)
  })
  $effect(() => {
    if (!open) text = wanted = ''
  })

  type Hit = { href: string; kind: string; name: string; stamp?: boolean; more: string }
  const hits = $derived<Hit[]>(
    !found.data || text.trim() === ''
      ? []
      : [
          ...found.data.students.map((one) => ({
            href: `/students/${one.id}`,
            kind: 'Student',
            name: one.name,
            more: one.hasLeft ? 'has left' : `${one.className}, ${one.targetTestId}`,
          })),
          ...found.data.coupons.map((one) => ({
            href: `/coupons/${one.id}`,
            kind: 'Coupon',
            name: one.stamp,
            stamp: true,
            more: `${one.studentName}, ${one.testId}, ${shortDay(one.startedOn)}, ${
              one.givenUp ? 'given up' : one.verdict ? verdictName(one.verdict).toLowerCase() : 'open'
            }`,
          })),
          ...found.data.tests.map((one) => ({
            href: `/library/${one.id}`,
            kind: 'Test',
            name: one.id,
            more: one.title,
          })),
        ],
  )
  const chosen = $derived(Math.min(at, Math.max(0, hits.length - 1)))
  const settled = $derived(wanted === text.trim() && !found.isFetching)

  // Whoever types faster than the answer comes is taken there once it has come, and not to the wrong place before.
  let entered = $state(false)
  $effect(() => {
    if (!entered || !settled) return
    entered = false
    if (hits[chosen]) go(hits[chosen])
  })

  function go(hit: Hit) {
    open = false
    goto(hit.href)
  }

  function onkeydown(event: KeyboardEvent) {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
    if (!by || !hits.length) return
    event.preventDefault()
    at = (chosen + by + hits.length) % hits.length
    document.getElementById(`hit-${at}`)?.scrollIntoView({ block: 'nearest' })
  }
</script>

<Dialog bind:open title="Find" size="md">
  <form
    onsubmit={(event) => {
      event.preventDefault()
      entered = true
    }}
  >
    <!-- svelte-ignore a11y_autofocus -->
    <input
      class="field w-full text-lg"
      placeholder="A name, a stamp, a test"
      aria-label="Find a student, a coupon stamp or a test"
      role="combobox"
      aria-expanded={hits.length > 0}
      aria-controls="hits"
      aria-activedescendant={hits.length ? `hit-${chosen}` : undefined}
      maxlength="80"
      autocomplete="off"
      spellcheck="false"
      bind:value={text}
      oninput={() => {
        at = 0
        entered = false
      }}
      {onkeydown}
      autofocus
    />
  </form>
  <ul id="hits" class="min-h-[60vh] text-(--ink)" role="listbox" aria-label="Found">
    {#each hits as hit, index (hit.href)}
      <!-- The input has the focus and the keys. -->
      <!-- svelte-ignore a11y_click_events_have_key_events -->
      <li
        id="hit-{index}"
        role="option"
        aria-selected={index === chosen}
        class="hit flex min-h-[52px] cursor-pointer items-center gap-3 border-t px-2 py-1"
        onclick={() => go(hit)}
      >
        <span class="w-16 shrink-0 text-sm text-(--soft)">{hit.kind}</span>
        <span
          class="min-w-0 font-semibold [overflow-wrap:anywhere] {hit.stamp
            ? 'stamp text-xl'
            : hit.kind === 'Test'
              ? 'number text-xl'
              : ''}">{hit.name}</span
        >
        <span class="ml-auto max-w-[55%] text-right text-sm text-(--soft)">{hit.more}</span>
      </li>
    {/each}
  </ul>
  {#if !hits.length}
    <p class="absolute px-2 text-(--soft)" role="status">
      {#if text.trim() === ''}Open or closed, here or gone: all of it is found. Words of a test do too: 6G
        stainless.
      {:else if found.error}It cannot be looked up: {found.error.message}
      {:else if settled}Nothing by that name.{:else}Looking.{/if}
    </p>
  {/if}
</Dialog>

<style>
  .hit[aria-selected='true'] {
    background: var(--done-ground);
    box-shadow: inset 4px 0 var(--blue);
  }
  .hit:hover {
    background: var(--plate);
  }
</style>
