<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query'
  import { goto } from '$app/navigation'
  import { page } from '$app/state'
  import { api, ask, type Schema } from '$lib/api/client'
  import { moment } from '$lib/days'
  import { editing } from '$lib/library/editing.svelte'
  import ShippedOffer from '$lib/library/ShippedOffer.svelte'
  import TestSheet from '$lib/library/TestSheet.svelte'
  import { notices } from '$lib/notices.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { session } from '$lib/session.svelte'

  const id = $derived(page.params.id!)
  const variants = $derived(page.url.searchParams.getAll('variants'))
  const version = $derived(page.url.searchParams.get('version'))
  const chosen = $derived(Object.fromEntries(variants.map((one) => one.split(':', 2) as [string, string])))
  const query = createQuery(() => ({
    queryKey: ['test', id, version, variants],
    queryFn: () =>
      ask(
        api.GET('/api/tests/{id}', {
          params: { path: { id }, query: { variants, ...(version ? { version: Number(version) } : {}) } },
        }),
      ),
    placeholderData: keepPreviousData,
  }))
  const view = $derived(query.data)
  const isLead = $derived(session.isLead)
  let files = $state<HTMLInputElement>()

  function choose(group: string, option: string) {
    const next = new URL(page.url)
    next.searchParams.delete('variants')
    for (const [key, value] of Object.entries({ ...chosen, [group]: option }))
      next.searchParams.append('variants', `${key}:${value}`)
    void goto(next, { replaceState: true, noScroll: true, keepFocus: true })
  }

  async function edit(copy: boolean) {
    await notices.attempt(async () => {
      const test = await ask(api.GET('/api/tests/{id}/file', { params: { path: { id } } }))
      editing.open(
        copy ? { ...test, id: `${test.id}-2`, title: `${test.title}, copy` } : test,
        copy ? null : test.version,
      )
      await goto('/library/edit')
    })
  }

  async function importFile(event: Event) {
    const file = (event.currentTarget as HTMLInputElement).files?.[0]
    if (!file) return
    await notices.attempt(async () => {
      let test: Schema['TestTemplate']
      try {
        test = JSON.parse(await file.text()) as Schema['TestTemplate']
      } catch {
        throw new Error(`${file.name} is not JSON.`)
      }
      const known = await api.GET('/api/tests/{id}/file', { params: { path: { id: String(test.id) } } })
      editing.open(test, known.data?.version ?? null)
      await goto('/library/edit')
    })
    if (files) files.value = ''
  }
</script>

<svelte:head><title>{id} · Library · Gradus</title></svelte:head>

{#if !view}
  <Waiting error={query.error} retry={() => query.refetch()} what="The test" />
{:else}
  <div class="flex flex-wrap items-center gap-2">
    <h2 class="mr-auto flex items-baseline gap-3 text-2xl">
      <span class="number text-3xl">{view.test.id}</span>
      <span>{view.test.title}</span>
    </h2>
    <div class="flex flex-wrap gap-1.5 print:hidden">
      {#if isLead}
        <button class="plate" onclick={() => edit(false)}>Edit</button>
        <button class="plate" onclick={() => edit(true)}>Copy</button>
        <button class="plate" onclick={() => files?.click()}>Import</button>
        <input
          bind:this={files}
          type="file"
          accept="application/json,.json"
          class="sr-only"
          aria-label="A test as a JSON file"
          tabindex="-1"
          onchange={importFile}
        />
      {/if}
      <a class="plate" href="/api/tests/{view.test.id}/file" download="{view.test.id}.json">Export</a>
      <button class="plate" onclick={() => window.print()}>Print</button>
    </div>
  </div>
  {#if view.offer}<ShippedOffer of="test" id={view.test.id} offer={view.offer} />{/if}
  <TestSheet {view} {chosen} onchoose={choose} />
  <section class="mt-4 print:hidden" aria-label="Versions">
    <h3 class="eyebrow">Versions</h3>
    <ul class="text-sm">
      {#each view.history as row (row.version)}
        <li class="flex flex-wrap items-center gap-x-3">
          <a
            class="number inline-flex min-h-12 items-center text-lg underline underline-offset-4"
            href="/library/{view.test.id}?version={row.version}"
            aria-current={row.version === view.test.version ? 'true' : undefined}>version {row.version}</a
          >
          <span
            >{row.shipped
              ? 'as it came with the program'
              : `${row.savedBy}${row.savedAt ? `, ${moment(row.savedAt, session.timeZone)}` : ''}: ${row.why}`}{row.version ===
            view.test.version
              ? ' (shown)'
              : ''}</span
          >
        </li>
      {/each}
    </ul>
    <p class="text-sm text-(--soft)">
      Files follow the schema at <a class="underline" href="/api/schemas/test-template"
        >/api/schemas/test-template</a
      >.{isLead ? '' : ' The lead instructor changes the library.'}
    </p>
  </section>
{/if}
