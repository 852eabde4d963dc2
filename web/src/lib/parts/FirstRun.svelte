<script lang="ts">
  import { api, ask, Refused } from '$lib/api/client'
  import { session } from '$lib/session.svelte'

  let schoolName = $state('')
  let instructorName = $state('')
  let pin = $state('')
  let booths = $state(12)
  let timeZone = $state(Intl.DateTimeFormat().resolvedOptions().timeZone)
  let errors = $state<Record<string, string[]>>({})
  let failure = $state('')
  let busy = $state(false)

  async function submit(event: SubmitEvent) {
    event.preventDefault()
    busy = true
    errors = {}
    failure = ''
    try {
      await ask(
        api.POST('/api/setup', {
          body: { schoolName, instructorName, pin, booths: Number(booths), timeZone },
        }),
      )
      await session.load()
    } catch (error) {
      if (error instanceof Refused && error.status === 400) errors = error.fields
      else failure = error instanceof Error ? error.message : 'Not set up.'
    } finally {
      busy = false
    }
  }
</script>

{#snippet field(id: string, label: string, hint: string)}
  <span class="eyebrow">{label}</span>
  <span class="block text-sm text-(--soft)">{hint}</span>
  {#if errors[id]}<span class="block font-semibold text-(--caution)" role="alert"
      >{errors[id]?.join(' ')}</span
    >{/if}
{/snippet}

<svelte:head><title>Set up · Gradus</title></svelte:head>
<main class="flex min-h-screen items-center justify-center p-6">
  <form
    class="sheet w-full max-w-2xl border-t-8 p-8"
    style:border-top-color="var(--bronze)"
    onsubmit={submit}
    novalidate
  >
    <h1 class="text-3xl">Set up your school</h1>
    <p class="mt-1 text-(--soft)">Once. You can add students and start the first coupon right after.</p>
    <div class="mt-6 grid gap-5 md:grid-cols-2">
      <label
        >{@render field('schoolName', 'School', 'As it is to stand on records')}<input
          class="field"
          bind:value={schoolName}
          autocomplete="organization"
        /></label
      >
      <label
        >{@render field('instructorName', 'Your name', 'You become the lead instructor')}<input
          class="field"
          bind:value={instructorName}
          autocomplete="name"
        /></label
      >
      <label
        >{@render field('pin', 'Your PIN', '4 to 12 digits, to sign in and to sign decisions')}<input
          class="field number"
          type="password"
          inputmode="numeric"
          autocomplete="new-password"
          bind:value={pin}
        /></label
      >
      <label
        >{@render field('booths', 'Booths', 'How many stand in the shop')}<input
          class="field number"
          type="number"
          min="1"
          max="60"
          bind:value={booths}
        /></label
      >
      <label class="md:col-span-2"
        >{@render field('timeZone', 'Time zone', 'In which days and times are shown')}<input
          class="field"
          bind:value={timeZone}
        /></label
      >
    </div>
    <p class="mt-4 font-semibold text-(--caution)" role="alert">{failure}</p>
    <button class="lead mt-2" disabled={busy}>Open the floor</button>
  </form>
</main>

<style>
  .field {
    display: block;
    width: 100%;
    height: 3rem;
    margin-top: 0.25rem;
    border: 1.5px solid var(--steel-edge);
    background: var(--page);
    padding: 0 0.75rem;
    font-size: 1.05rem;
  }
</style>
