<script lang="ts">
  import { changed } from '$lib/changed'
  import { useQueryClient } from '@tanstack/svelte-query'
  import { notices } from '$lib/notices.svelte'
  import type { Schema } from '$lib/api/client'
  import { Refused } from '$lib/api/client'

  type Touched = Parameters<typeof changed>[1]
  type Props = { path: string; title: string; columns: string; touches: Touched[] }
  let { path, title, columns, touches }: Props = $props()
  const client = useQueryClient()
  let text = $state('')
  let seen = $state<Schema['ImportView'] | null>(null)

  async function send(take: boolean) {
    await notices.attempt(async () => {
      const response = await fetch(`${path}?take=${take}`, {
        method: 'POST',
        headers: { 'content-type': 'text/csv' },
        body: text,
      })
      const body = await response.json()
      if (!response.ok) throw new Refused(response.status, body.title, body.errors ?? {})
      seen = body as Schema['ImportView']
      if (seen.taken) {
        notices.add(`${seen.good} rows taken in.`, 'done')
        text = ''
        for (const one of touches) await changed(client, one)
      }
    })
  }

  async function read(event: Event & { currentTarget: HTMLInputElement }) {
    const file = event.currentTarget.files?.[0]
    if (!file) return
    text = await file.text()
    await send(false)
  }
</script>

<section class="sheet p-3" aria-label={title}>
  <h2 class="text-xl">{title}</h2>
  <p class="text-sm text-(--soft)">A CSV file whose first line names the columns: {columns}.</p>
  <div class="mt-2 flex flex-wrap items-center gap-2">
    <input class="max-w-full" type="file" accept=".csv,text/csv" aria-label="{title}: file" onchange={read} />
    {#if seen && !seen.taken && text}
      <button class="lead" disabled={seen.bad > 0 || seen.good === 0} onclick={() => send(true)}
        >Take in {seen.good} {seen.good === 1 ? 'row' : 'rows'}</button
      >
    {/if}
  </div>
  {#if seen && !seen.taken}
    <p class="mt-2" role="status">
      {seen.good} good{#if seen.bad > 0}, <strong class="text-(--caution)"
          >{seen.bad} bad: nothing is taken until they are mended</strong
        >{/if}.
    </p>
    <ul class="mt-1 max-h-60 overflow-y-auto">
      {#each seen.rows as row (row.line)}
        <li class:text-(--caution)={!row.good}>
          <span class="number">Line {row.line}</span>: {row.good ? '' : 'bad. '}{row.says}
        </li>
      {/each}
    </ul>
  {/if}
</section>
