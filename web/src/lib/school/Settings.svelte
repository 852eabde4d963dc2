<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, Refused, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { session } from '$lib/session.svelte'

  const client = useQueryClient()
  const settings = createQuery(() => ({ queryKey: ['school'], queryFn: () => ask(api.GET('/api/school')) }))
  let changes = $state<Partial<Schema['SchoolSettings']>>({})
  let errors = $state<Record<string, string[]>>({})
  let reached = $state(false)
  const form = $derived(settings.data ? { ...settings.data, ...changes } : null)

  async function save(event: SubmitEvent) {
    event.preventDefault()
    errors = {}
    try {
      await ask(api.PUT('/api/school', { body: { ...form!, address: form!.address || null } }))
      changes = {}
      notices.add('Saved.')
      await client.invalidateQueries()
      await session.load()
    } catch (error) {
      if (error instanceof Refused && error.status === 400) errors = error.fields
      else notices.add(error instanceof Error ? error.message : 'Not saved.', 'caution')
    }
  }
</script>

{#snippet head(id: string, label: string, hint: string)}
  <span class="eyebrow block">{label}</span>
  <span class="block text-sm text-(--soft)">{hint}</span>
  {#if errors[id]}<span class="block font-semibold text-(--caution)" role="alert"
      >{errors[id]?.join(' ')}</span
    >{/if}
{/snippet}

<!-- Where the shop is served over HTTPS, a tablet scans its way in. -->
{#snippet wayIn()}
  <section
    class="sheet mt-3 flex max-w-3xl flex-wrap items-center gap-4 p-4"
    aria-label="A tablet's way in"
    hidden={!reached}
  >
    <img
      src="/api/school/way-in.svg"
      alt="Code with the address of the page that brings a tablet in"
      class="h-40 w-40 bg-white"
      onload={() => (reached = true)}
    />
    <p class="min-w-0 grow basis-60">
      A tablet of the shop scans this once: the page behind it brings the shop's authority, takes along what
      waits there, and leads on to HTTPS.
    </p>
  </section>
{/snippet}

{#if !form}
  <Waiting error={settings.error} retry={() => settings.refetch()} what="The school" />
{:else}
  <form class="sheet grid max-w-3xl gap-4 p-4 md:grid-cols-2" novalidate onsubmit={save}>
    <label
      >{@render head('name', 'School', 'As it stands on records')}<input
        class="field w-full"
        maxlength="120"
        readonly={!session.isLead}
        value={form.name}
        oninput={(event) => (changes.name = event.currentTarget.value)}
      /></label
    >
    <label
      >{@render head('timeZone', 'Time zone', 'In which days and times are counted')}<input
        class="field w-full"
        readonly={!session.isLead}
        value={form.timeZone}
        oninput={(event) => (changes.timeZone = event.currentTarget.value)}
      /></label
    >
    <label
      >{@render head(
        'currency',
        'Currency',
        'In which prices and costs are told: three letters, such as EUR',
      )}<input
        class="field number w-full uppercase"
        maxlength="3"
        readonly={!session.isLead}
        value={form.currency}
        oninput={(event) => (changes.currency = event.currentTarget.value.toUpperCase())}
      /></label
    >
    <label
      >{@render head(
        'address',
        'Address in the shop',
        'Printed in the code of every tag; empty: as this page was reached',
      )}<input
        class="field w-full"
        placeholder={location.origin}
        readonly={!session.isLead}
        value={form.address ?? ''}
        oninput={(event) => (changes.address = event.currentTarget.value)}
      /></label
    >
    <label
      >{@render head(
        'idleMinutes',
        'Tablets ask who is there',
        'After so many minutes without a touch',
      )}<input
        class="field number w-full"
        type="number"
        min="1"
        max="240"
        readonly={!session.isLead}
        value={form.idleMinutes}
        oninput={(event) => (changes.idleMinutes = event.currentTarget.valueAsNumber || null)}
      /></label
    >
    <label class="flex items-center gap-3"
      ><input
        type="checkbox"
        class="h-6 w-6"
        disabled={!session.isLead}
        checked={form.studentsSeeChance ?? false}
        onchange={(event) => (changes.studentsSeeChance = event.currentTarget.checked)}
      /><span>Students see the chance that is worked out for them</span></label
    >
    {#if session.isLead}
      <div class="md:col-span-2">
        <button class="lead" disabled={Object.keys(changes).length === 0}>Save</button>
      </div>
    {/if}
  </form>
  {@render wayIn()}
{/if}
