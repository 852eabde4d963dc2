<script module lang="ts">
  import type { Schema } from '$lib/api/client'

  /** What is said of a student. */
  export type Said = {
    name: string
    classGroupId: string | null
    hand: Schema['OperatorHand']
    targetTestId: string | null
    note: string
  }

  export const NEW: Said = { name: '', classGroupId: null, hand: 'right', targetTestId: null, note: '' }
</script>

<script lang="ts">
  import TestPicker from '$lib/parts/TestPicker.svelte'
  import { classesQuery, testsQuery } from '$lib/queries'

  let { said = $bindable() }: { said: Said } = $props()
  const classes = classesQuery()
  const tests = testsQuery()

  // The first choice is made as soon as the choices are here.
  $effect(() => {
    said.classGroupId ??= classes.data?.[0]?.id ?? null
    said.targetTestId ??= tests.data?.[0]?.id ?? null
  })
  const field = 'field mt-1 w-full'
</script>

<label>
  <span class="eyebrow">Name</span>
  <input class="{field} h-12" bind:value={said.name} required maxlength="80" />
</label>
<fieldset>
  <legend class="eyebrow mb-1">Class</legend>
  <div class="flex flex-wrap gap-1.5">
    {#each classes.data ?? [] as group (group.id)}
      <button
        type="button"
        class="plate"
        aria-pressed={said.classGroupId === group.id}
        onclick={() => (said.classGroupId = group.id)}>{group.name}</button
      >
    {/each}
  </div>
</fieldset>
<fieldset>
  <legend class="eyebrow mb-1">Works toward</legend>
  <TestPicker
    tests={(tests.data ?? []).filter((test) => test.kind === 'test')}
    chosen={said.targetTestId}
    onpick={(id) => (said.targetTestId = id)}
  />
</fieldset>
<fieldset>
  <legend class="eyebrow mb-1">Welds with</legend>
  <div class="flex gap-1.5">
    {#each [['right', 'Right hand'], ['left', 'Left hand']] as const as [hand, name] (hand)}
      <button type="button" class="plate" aria-pressed={said.hand === hand} onclick={() => (said.hand = hand)}
        >{name}</button
      >
    {/each}
  </div>
</fieldset>
<label>
  <span class="eyebrow">Note</span>
  <textarea class="{field} py-2" rows="2" maxlength="500" bind:value={said.note}></textarea>
</label>
