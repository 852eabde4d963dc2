<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { changed } from '$lib/changed'
  import { notices } from '$lib/notices.svelte'
  import Dialog from '$lib/ui/Dialog.svelte'

  let { group = $bindable(), others }: { group: Schema['ClassView'] | null; others: Schema['ClassView'][] } =
    $props()
  const client = useQueryClient()
  const students = createQuery(() => ({
    queryKey: ['classes', group?.id ?? '', 'students'],
    queryFn: () => ask(api.GET('/api/classes/{id}/students', { params: { path: { id: group!.id } } })),
    enabled: group !== null,
  }))
  let goesTo = $state<Record<string, string>>({})
  $effect(() => {
    if (group) goesTo = {}
  })
  const nextOf = (id: string) => goesTo[id] ?? others[0]?.id ?? ''
  const leaving = $derived((students.data ?? []).filter((one) => nextOf(one.id) === '').length)

  async function end() {
    const ended = group!
    const goOn = (students.data ?? [])
      .map((one) => ({ studentId: one.id, classId: nextOf(one.id) }))
      .filter((one) => one.classId !== '')
    const done = await notices.attempt(() =>
      ask(api.PUT('/api/classes/{id}/ended', { params: { path: { id: ended.id } }, body: { goOn } })),
    )
    if (!done) return
    group = null
    notices.add(`${ended.name} is over. Its record stays.`)
    await changed(client, 'student')
    await changed(client, 'school')
  }
</script>

<Dialog
  bind:open={
    () => group !== null,
    (value) => {
      if (!value) group = null
    }
  }
  title="{group?.name ?? ''}: who goes on?"
  size="md"
>
  <ul class="max-h-96 overflow-y-auto">
    {#each students.data ?? [] as one (one.id)}
      <li class="flex items-center gap-3 border-t py-1.5 first:border-t-0">
        <span class="min-w-0 grow [overflow-wrap:anywhere]">{one.name}</span>
        <select
          class="field"
          aria-label="{one.name} goes on in"
          value={nextOf(one.id)}
          onchange={(event) => (goesTo[one.id] = event.currentTarget.value)}
        >
          {#each others as other (other.id)}<option value={other.id}>{other.name}</option>{/each}
          <option value="">leaves</option>
        </select>
      </li>
    {:else}<li class="text-(--soft)">Nobody is in it.</li>{/each}
  </ul>
  <p class="mt-2 text-(--soft)">
    {leaving === 0
      ? 'Everybody goes on.'
      : `${leaving} ${leaving === 1 ? 'leaves' : 'leave'}; they can come back any time.`}
  </p>
  <button class="lead mt-2 w-full" disabled={!students.data} onclick={end}>End the class</button>
</Dialog>
