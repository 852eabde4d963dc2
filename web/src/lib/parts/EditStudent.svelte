<script lang="ts">
  import { changed } from '$lib/changed'
  import { useQueryClient } from '@tanstack/svelte-query'
  import Dialog from '$lib/ui/Dialog.svelte'
  import { api, ask, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import { session } from '$lib/session.svelte'
  import { signing } from '$lib/signing.svelte'
  import StudentFields, { NEW } from '$lib/parts/StudentFields.svelte'

  let { open = $bindable(), student }: { open: boolean; student: Schema['StudentView'] } = $props()
  const client = useQueryClient()
  let said = $state({ ...NEW })
  let busy = $state(false)

  $effect(() => {
    if (open) {
      const { name, classGroupId, hand, targetTestId, note } = student
      said = { name, classGroupId, hand, targetTestId, note: note ?? '' }
    }
  })

  async function save(event: SubmitEvent) {
    event.preventDefault()
    busy = true
    const done = await notices.attempt(() =>
      ask(
        api.PUT('/api/students/{id}/details', {
          params: { path: { id: student.id } },
          body: { ...said, note: said.note || null },
        }),
      ),
    )
    busy = false
    if (!done) return
    open = false
    await changed(client, 'student')
  }

  async function erase() {
    const name = student.name
    const signed = await signing.attempt(
      `${name} is erased: the name, what was written of them in words, their sign-in, absences and photos. What they welded stays without a name; issued records stay as issued, for as long as your law asks. It cannot be undone.`,
      (header) => ask(api.PUT('/api/students/{id}/erased', { params: { path: { id: student.id }, header } })),
    )
    if (!signed) return
    open = false
    await session.load()
    await changed(client, 'student')
    notices.add('Erased. Backups forget the photos as they grow old.', 'done')
  }

  async function setLeft(left: boolean) {
    await notices.attempt(async () => {
      const params = { params: { path: { id: student.id } } }
      await ask(
        left ? api.PUT('/api/students/{id}/left', params) : api.DELETE('/api/students/{id}/left', params),
      )
      open = false
      await changed(client, 'student')
      notices.add(
        left
          ? `${student.name} has left: the record stays, and counts nowhere.`
          : `${student.name} is back on the floor.`,
        'done',
        () => setLeft(!left),
      )
    })
  }
</script>

<Dialog bind:open title="Change {student.name}" size="md">
  <form class="flex flex-col gap-4" onsubmit={save}>
    <StudentFields bind:said />
    <div class="flex flex-wrap gap-2">
      <button class="lead" disabled={busy}>Save</button>
      {#if student.leftAt}
        <button type="button" class="plate" onclick={() => setLeft(false)}>Comes back</button>
        {#if session.isLead}
          <button type="button" class="plate" onclick={erase}>Erase name and photos</button>
        {/if}
      {:else}
        <button type="button" class="plate" onclick={() => setLeft(true)}>Has left the school</button>
      {/if}
    </div>
    {#if session.isLead}
      <p class="border-t pt-3">
        <a class="underline" href="/api/students/{student.id}/file.json" download
          >All that is kept of {student.name}</a
        >, to hand over when it is asked for, or
        <a class="underline" href="/api/students/{student.id}/file.pdf" download>to read on paper</a>.
      </p>
    {/if}
  </form>
</Dialog>
