<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { session } from '$lib/session.svelte'

  let { view, onsignedin }: { view: Schema['SessionView']; onsignedin: () => Promise<unknown> } = $props()
  let who = $state<string | null>(null)
  let pin = $state('')
  let error = $state('')
  let busy = $state(false)
  const chosen = $derived(who ?? view.instructors[0]?.id ?? null)

  async function submit(event: SubmitEvent) {
    event.preventDefault()
    if (!chosen) return
    busy = true
    error = ''
    try {
      await session.signIn(chosen, pin)
      pin = ''
      await onsignedin()
    } catch (problem) {
      error = problem instanceof Error ? problem.message : 'Not signed in.'
      pin = ''
    } finally {
      busy = false
    }
  }
</script>

<form onsubmit={submit}>
  <fieldset>
    <legend class="eyebrow mb-2">Who is at the tablet?</legend>
    <div class="flex flex-col gap-2" role="radiogroup" aria-label="Instructor">
      {#each view.instructors as instructor (instructor.id)}
        <button
          type="button"
          role="radio"
          class="plate justify-start text-lg"
          aria-checked={chosen === instructor.id}
          onclick={() => (who = instructor.id)}>{instructor.name}{instructor.isLead ? ', lead' : ''}</button
        >
      {/each}
    </div>
  </fieldset>
  <label class="mt-5 block">
    <span class="eyebrow">PIN</span>
    <input
      type="password"
      inputmode="numeric"
      autocomplete="current-password"
      class="field number mt-1 block h-14 w-full text-2xl tracking-[0.3em]"
      bind:value={pin}
      required
      aria-invalid={error !== ''}
      aria-describedby="pin-error"
    />
  </label>
  <p id="pin-error" class="mt-2 min-h-6 font-semibold text-(--caution)" role="alert">{error}</p>
  <button class="lead mt-2 w-full text-lg" disabled={busy}>Sign in</button>
  {#if view.demoPin}
    <p class="mt-4 text-(--soft)">
      This is the demo school: everyone and everything in it is invented. The PIN is <span class="number"
        >{view.demoPin}</span
      >.
    </p>
  {/if}
</form>
