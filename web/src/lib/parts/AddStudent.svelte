<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import Modal from 'flowbite-svelte/Modal.svelte'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import TestPicker from '$lib/parts/TestPicker.svelte'
  import { classesQuery, testsQuery } from '$lib/queries'

  let { open = $bindable() }: { open: boolean } = $props()
  const client = useQueryClient()
  const classes = classesQuery()
  const tests = testsQuery()
  let name = $state('')
  let classId = $state<string | null>(null)
  let testId = $state<string | null>(null)
  let hand = $state<Schema['OperatorHand']>('right')
  const chosenClass = $derived(classId ?? classes.data?.[0]?.id)
  const chosenTest = $derived(testId ?? tests.data?.[0]?.id)

  async function add(event: SubmitEvent) {
    event.preventDefault()
    const body = {
      name,
      classGroupId: chosenClass ?? null,
      hand,
      targetTestId: chosenTest ?? null,
      note: null,
    }
    const done = await notices.attempt(() =>
      ask(api.PUT('/api/students/{id}', { params: { path: { id: newId() } }, body })),
    )
    if (!done) return
    notices.add(`${name} is on the floor.`)
    name = ''
    open = false
    await client.invalidateQueries({ queryKey: ['floor'] })
  }
</script>

<Modal bind:open title="Add a student" size="md">
  <form class="flex flex-col gap-4" onsubmit={add}>
    <label>
      <span class="eyebrow">Name</span>
      <input
        class="mt-1 h-12 w-full border-[1.5px] border-(--steel-edge) bg-(--page) px-3"
        bind:value={name}
        required
        maxlength="80"
      />
    </label>
    <fieldset>
      <legend class="eyebrow mb-1">Class</legend>
      <div class="flex flex-wrap gap-1.5">
        {#each classes.data ?? [] as group (group.id)}
          <button
            type="button"
            class="tap"
            aria-pressed={chosenClass === group.id}
            onclick={() => (classId = group.id)}>{group.name}</button
          >
        {/each}
      </div>
    </fieldset>
    <fieldset>
      <legend class="eyebrow mb-1">Works toward</legend>
      <TestPicker
        tests={(tests.data ?? []).filter((test) => test.kind === 'test')}
        chosen={chosenTest ?? null}
        onpick={(id) => (testId = id)}
      />
    </fieldset>
    <fieldset>
      <legend class="eyebrow mb-1">Welds with</legend>
      <div class="flex gap-1.5">
        <button type="button" class="tap" aria-pressed={hand === 'right'} onclick={() => (hand = 'right')}
          >Right hand</button
        >
        <button type="button" class="tap" aria-pressed={hand === 'left'} onclick={() => (hand = 'left')}
          >Left hand</button
        >
      </div>
    </fieldset>
    <!-- A tap before the choices are here would send a student without a class. -->
    <button class="tap tap-main self-start px-6" disabled={!chosenClass || !chosenTest}>Add</button>
  </form>
</Modal>
