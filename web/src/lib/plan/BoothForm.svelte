<script lang="ts">
  import { changed } from '$lib/changed'
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import { session } from '$lib/session.svelte'

  let { booth }: { booth: Schema['PlanBooth'] } = $props()
  const client = useQueryClient()
  const PROCESSES = ['SMAW', 'GTAW', 'GMAW', 'FCAW-G', 'FCAW-S']
  const TRAITS = [
    { id: 'pipe', name: 'Pipe stand' },
    { id: 'purge', name: 'Purge' },
    { id: 'extraction', name: 'Extraction' },
    { id: 'positioner', name: 'Positioner' },
  ]
  // svelte-ignore state_referenced_locally (made anew for each booth)
  let processes = $state([...booth.processes])
  // svelte-ignore state_referenced_locally
  let has = $state([...booth.has])
  // svelte-ignore state_referenced_locally
  let column = $state(booth.column + 1)
  // svelte-ignore state_referenced_locally
  let row = $state(booth.row + 1)
  let why = $state('Machine down')

  const toggled = (list: string[], one: string) =>
    list.includes(one) ? list.filter((other) => other !== one) : [...list, one]

  async function save() {
    const done = await notices.attempt(() =>
      ask(
        api.PUT('/api/booths/{id}', {
          params: { path: { id: booth.id } },
          body: {
            processes,
            pipe: has.includes('pipe'),
            purge: has.includes('purge'),
            extraction: has.includes('extraction'),
            positioner: has.includes('positioner'),
            column: column - 1,
            row: row - 1,
          },
        }),
      ),
    )
    if (done) await changed(client, 'booths')
  }

  async function remove() {
    const path = { id: booth.id }
    const done = await notices.attempt(() => ask(api.PUT('/api/booths/{id}/removed', { params: { path } })))
    if (done)
      notices.add(`Booth ${booth.number} is taken out. Its coupons keep the number.`, 'done', async () => {
        await ask(api.DELETE('/api/booths/{id}/removed', { params: { path } }))
        await changed(client, 'booths')
      })
    await changed(client, 'booths')
  }

  async function close(reason: string | null) {
    await notices.attempt(async () => {
      await ask(
        api.PUT('/api/booths/{id}/closed', { params: { path: { id: booth.id } }, body: { why: reason } }),
      )
      await changed(client, 'booths')
    })
  }
</script>

<fieldset class="mt-2">
  <legend class="eyebrow mb-1">Booth {booth.number} runs</legend>
  <div class="flex flex-wrap gap-1">
    {#each PROCESSES as one (one)}
      <button
        class="plate px-2"
        aria-pressed={processes.includes(one)}
        onclick={() => (processes = toggled(processes, one))}>{one}</button
      >
    {/each}
  </div>
</fieldset>
<fieldset class="mt-2">
  <legend class="eyebrow mb-1">and has</legend>
  <div class="flex flex-wrap gap-1">
    {#each TRAITS as one (one.id)}
      <button
        class="plate px-2"
        aria-pressed={has.includes(one.id)}
        onclick={() => (has = toggled(has, one.id))}>{one.name}</button
      >
    {/each}
  </div>
</fieldset>
<div class="mt-2 flex flex-wrap items-end gap-2">
  <label
    ><span class="eyebrow block">Stands in column</span>
    <input type="number" min="1" max="40" class="field w-24" bind:value={column} /></label
  >
  <label
    ><span class="eyebrow block">Row</span>
    <input type="number" min="1" max="40" class="field w-24" bind:value={row} /></label
  >
  <button class="lead" onclick={save}>Save the booth</button>
  {#if booth.closedWhy}
    <button class="plate" onclick={() => close(null)}>Open it again</button>
  {:else}
    <label
      ><span class="eyebrow block">Cannot be used because</span>
      <input class="field w-44" maxlength="200" bind:value={why} /></label
    >
    <button class="plate" onclick={() => close(why)}>Close it</button>
  {/if}
  {#if session.isLead}
    <button class="plate" onclick={remove}>Take it out of the shop</button>
  {/if}
</div>
