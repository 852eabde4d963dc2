<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { session } from '$lib/session.svelte'
  import PinField from './PinField.svelte'

  let { view, onsignedin }: { view: Schema['SessionView']; onsignedin: () => Promise<unknown> } = $props()
  let who = $state<string | null>(null)
  let typing = $state(false)
  let name = $state('')
  let pin = $state('')
  let error = $state('')
  let busy = $state(false)
  const chosen = $derived(typing ? null : (who ?? view.instructors[0]?.id ?? null))

  async function submit(event: SubmitEvent) {
    event.preventDefault()
    if (!chosen && name.trim() === '') {
      error = 'Type your name.'
      return
    }
    busy = true
    error = ''
    try {
      await session.signIn(chosen ? { instructorId: chosen, name: null } : { instructorId: null, name }, pin)
      pin = ''
      await onsignedin()
    } catch (problem) {
      error = problem instanceof Error ? problem.message : 'Not signed in.'
      pin = ''
    } finally {
      busy = false
    }
  }

  function choose(id: string) {
    who = id
    typing = false
  }
</script>

{#snippet person(id: string, says: string)}
  <button
    type="button"
    role="radio"
    class="plate justify-start text-lg"
    aria-checked={chosen === id}
    onclick={() => choose(id)}><span class="truncate">{says}</span></button
  >
{/snippet}

<form onsubmit={submit} novalidate>
  <fieldset>
    <legend class="eyebrow mb-2">Who is at the tablet?</legend>
    <div class="flex flex-col gap-2" role="radiogroup" aria-label="Instructor">
      {#each view.instructors as one (one.id)}
        {@render person(
          one.id,
          `${one.name}${one.isLead ? ', lead' : one.role === 'inspector' ? ', inspector' : ''}`,
        )}
      {/each}
    </div>
    {#each view.classes as group (group.id)}
      <p class="eyebrow mt-4 mb-2" id="class-{group.id}">{group.name}</p>
      <div
        class="grid max-h-72 grid-cols-2 gap-2 overflow-y-auto"
        role="radiogroup"
        aria-labelledby="class-{group.id}"
      >
        {#each group.students as one (one.id)}{@render person(one.id, one.name)}{/each}
      </div>
    {:else}
      <button
        type="button"
        class="plate mt-2 w-full justify-start text-lg"
        aria-pressed={typing}
        onclick={() => (typing = !typing)}>A student: type your name</button
      >
      {#if typing}
        <label class="mt-3 block"
          ><span class="eyebrow">Your name, as it stands in the class list</span>
          <input
            class="field mt-1 block h-14 w-full text-lg"
            autocomplete="username"
            maxlength="80"
            bind:value={name}
          /></label
        >
      {/if}
    {/each}
  </fieldset>
  <div class="mt-5"><PinField bind:pin label="PIN" {error} /></div>
  <button class="lead mt-2 w-full text-lg" disabled={busy}>Sign in</button>
  {#if view.demoPin}
    <p class="mt-4 text-(--soft)">
      This is the demo school: everyone and everything in it is invented. Everybody's PIN is <span
        class="number">{view.demoPin}</span
      >, the students' too.
    </p>
  {/if}
</form>
