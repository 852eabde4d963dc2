<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import Dialog from '$lib/ui/Dialog.svelte'
  import { api, ask, newId, Refused } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import StudentFields, { NEW } from '$lib/parts/StudentFields.svelte'

  let { open = $bindable() }: { open: boolean } = $props()
  const client = useQueryClient()
  let said = $state({ ...NEW })
  let id = $state(newId())
  /** Who is there already under a name like this. */
  let alike = $state<string[]>([])
  let busy = $state(false)

  // Each time it is opened it starts fresh: nothing of the one before is carried over.
  $effect(() => {
    if (open) {
      said = { ...NEW }
      id = newId()
      alike = []
    }
  })
  $effect(() => {
    void said.name
    alike = []
  })

  // It comes at the foot of a form that may be longer than the screen.
  const inSight = (node: HTMLElement) => node.scrollIntoView({ block: 'end' })

  async function add(evenIfAlike: boolean) {
    busy = true
    await notices.attempt(async () => {
      try {
        await ask(
          api.PUT('/api/students/{id}', {
            params: { path: { id } },
            body: { ...said, note: said.note || null, evenIfAlike },
          }),
        )
      } catch (error) {
        if (!(error instanceof Refused) || !error.fields.evenIfAlike) throw error
        alike = error.fields.evenIfAlike
        return
      }
      notices.add(`${said.name.trim()} is on the floor.`)
      open = false
      await client.invalidateQueries({ queryKey: ['floor'] })
    })
    busy = false
  }
</script>

<Dialog bind:open title="Add a student" size="md">
  <form
    class="flex flex-col gap-4"
    onsubmit={(event) => {
      event.preventDefault()
      void add(false)
    }}
  >
    <StudentFields bind:said />
    {#if alike.length}
      <div role="alert" class="bg-(--caution-ground) p-3" {@attach inSight}>
        {#each alike as one (one)}<p class="font-semibold text-(--caution)">{one}</p>{/each}
        <p>Is this another person?</p>
        <button type="button" class="plate mt-2" disabled={busy} onclick={() => add(true)}
          >Yes, add {said.name.trim()}</button
        >
      </div>
    {:else}
      <!-- A tap before the choices are here would send a student without a class. -->
      <button class="lead self-start" disabled={busy || !said.classGroupId || !said.targetTestId}>Add</button>
    {/if}
  </form>
</Dialog>
