<script lang="ts">
  import type { Schema } from '$lib/api/client'

  type Props = {
    group?: Schema['ClassView']
    onsave: (body: Schema['SaveClass']) => void
    oncancel: () => void
  }
  let { group, onsave, oncancel }: Props = $props()
  const DAYS: Schema['DayOfWeek'][] = [
    'monday',
    'tuesday',
    'wednesday',
    'thursday',
    'friday',
    'saturday',
    'sunday',
  ]
  // svelte-ignore state_referenced_locally
  let name = $state(group?.name ?? '')
  // svelte-ignore state_referenced_locally
  let meetsOn = $state<Schema['DayOfWeek'][]>(group?.meetsOn ?? DAYS.slice(0, 5))
  // svelte-ignore state_referenced_locally
  let termEnds = $state(group?.termEnds ?? '')
  const toggle = (day: Schema['DayOfWeek']) =>
    (meetsOn = meetsOn.includes(day) ? meetsOn.filter((one) => one !== day) : [...meetsOn, day])
</script>

<form
  class="flex flex-col gap-2"
  novalidate
  onsubmit={(event) => {
    event.preventDefault()
    onsave({ name, meetsOn, termEnds: termEnds || null })
  }}
>
  <label
    ><span class="eyebrow block">Name of the class</span>
    <input class="field w-full" maxlength="60" bind:value={name} /></label
  >
  <div role="group" aria-label="Days on which it meets" class="flex flex-wrap gap-1">
    {#each DAYS as day (day)}
      <button
        type="button"
        class="plate px-2.5 capitalize"
        aria-pressed={meetsOn.includes(day)}
        onclick={() => toggle(day)}>{day.slice(0, 3)}</button
      >
    {/each}
  </div>
  <label
    ><span class="eyebrow block">Term ends, if that is known</span>
    <input class="field" type="date" bind:value={termEnds} /></label
  >
  <div class="flex gap-2">
    <button class="lead" disabled={name.trim() === '' || meetsOn.length === 0}>Save</button>
    <button type="button" class="plate" onclick={oncancel}>Leave it</button>
  </div>
</form>
