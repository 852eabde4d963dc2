<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, newId, Refused, type Schema } from '$lib/api/client'
  import { moment } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import PinField from '$lib/parts/PinField.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { session } from '$lib/session.svelte'
  import Dialog from '$lib/ui/Dialog.svelte'
  import GivePin from './GivePin.svelte'
  import { ROLES, roleName } from './roles'

  type Person = Schema['PersonView']
  const client = useQueryClient()
  const people = createQuery(() => ({ queryKey: ['people'], queryFn: () => ask(api.GET('/api/people')) }))
  let adding = $state(false)
  let givingTo = $state<Person | null>(null)
  let name = $state('')
  let role = $state<Schema['PersonRole']>('instructor')
  let pin = $state('')
  let errors = $state<Record<string, string[]>>({})
  let tabletName = $state('')
  let id = newId()

  const again = () => client.invalidateQueries({ queryKey: ['people'] })

  async function tell(action: () => Promise<unknown>, says: string) {
    errors = {}
    try {
      await action()
      notices.add(says)
      adding = false
      pin = name = ''
      id = newId()
    } catch (error) {
      if (error instanceof Refused && (error.fields.pin || error.fields.name)) errors = error.fields
      else notices.add(error instanceof Error ? error.message : 'Something went wrong.', 'caution')
    }
    await again()
  }

  const add = () =>
    tell(
      () => ask(api.PUT('/api/people/{id}', { params: { path: { id } }, body: { name, role, pin } })),
      `${name} is added.`,
    )
  const become = (one: Person, to: Schema['PersonRole']) =>
    tell(
      () => ask(api.PUT('/api/people/{id}/role', { params: { path: { id: one.id } }, body: { role: to } })),
      `${one.name}: ${roleName(to)}. They sign in anew.`,
    )
  const leave = (one: Person) =>
    tell(
      () => ask(api.PUT('/api/people/{id}/left', { params: { path: { id: one.id } } })),
      `${one.name} has left. What they signed stays signed.`,
    )
  const comeBack = (one: Person) =>
    tell(
      () => ask(api.DELETE('/api/people/{id}/left', { params: { path: { id: one.id } } })),
      `${one.name} is back.`,
    )

  async function pair(event: SubmitEvent) {
    event.preventDefault()
    const done = await notices.attempt(() =>
      ask(api.POST('/api/session/tablet', { body: { name: tabletName } })),
    )
    if (!done) return
    notices.add(
      'This is a tablet of the shop now: it shows the class list, and asks who is there when nobody touches it.',
    )
    await session.load()
    await again()
  }

  async function end(tablet: Schema['TabletView']) {
    const done = await notices.attempt(() =>
      ask(api.DELETE('/api/tablets/{id}', { params: { path: { id: tablet.id } } })),
    )
    if (done) notices.add(`${tablet.name} is a tablet of the shop no more.`)
    if (tablet.isThis) await session.load()
    await again()
  }
</script>

{#if !people.data}
  <Waiting error={people.error} retry={() => people.refetch()} what="The people" />
{:else}
  <div class="grid items-start gap-3 2xl:grid-cols-2">
    <section class="sheet p-3" aria-label="People">
      <div class="flex flex-wrap items-center gap-3">
        <h2 class="mr-auto text-xl">Who instructs, leads and inspects</h2>
        {#if session.isLead}<button class="plate" onclick={() => (adding = true)}>Add somebody</button>{/if}
      </div>
      <ul class="mt-2">
        {#each people.data.people as one (one.id)}
          <li class="flex flex-wrap items-center gap-x-3 gap-y-1 border-t py-2 first:border-t-0">
            <span class="min-w-0 grow [overflow-wrap:anywhere] {one.leftAt ? 'text-(--soft)' : 'text-lg'}"
              >{one.name}{#if one.leftAt}, left {moment(one.leftAt, session.timeZone)}{/if}</span
            >
            {#if session.isLead && one.leftAt}
              <button class="plate" onclick={() => comeBack(one)}>Is back</button>
            {:else if session.isLead}
              <select
                class="field w-44"
                aria-label="{one.name} is"
                value={one.role}
                onchange={(event) => become(one, event.currentTarget.value as Schema['PersonRole'])}
              >
                {#each ROLES as choice (choice)}<option value={choice}>{roleName(choice)}</option>{/each}
              </select>
              <button class="plate" aria-label="New PIN for {one.name}" onclick={() => (givingTo = one)}
                >New PIN</button
              >
              <button class="plate" aria-label="{one.name} has left" onclick={() => leave(one)}
                >Has left</button
              >
            {:else}
              <span class="text-(--soft)">{roleName(one.role)}</span>
            {/if}
          </li>
        {/each}
      </ul>
    </section>
    <section class="sheet p-3" aria-label="Tablets">
      <h2 class="text-xl">Tablets of the shop</h2>
      <p class="text-(--soft)">
        On these the class list is shown at sign-in. Elsewhere a student types their name.
      </p>
      <ul class="mt-2">
        {#each people.data.tablets as one (one.id)}
          <li class="flex flex-wrap items-center gap-3 border-t py-2 first:border-t-0">
            <span class="min-w-0 grow"
              ><span class="text-lg [overflow-wrap:anywhere]">{one.name}</span>{one.isThis
                ? ', this one'
                : ''}<br />
              <span class="text-sm text-(--soft)"
                >paired by {one.pairedBy}, {moment(one.pairedAt, session.timeZone)}</span
              ></span
            >
            {#if session.isLead}<button class="plate" aria-label="End {one.name}" onclick={() => end(one)}
                >End it</button
              >{/if}
          </li>
        {:else}
          <li class="text-(--soft)">None yet.</li>
        {/each}
      </ul>
      {#if !people.data.tablets.some((one) => one.isThis)}
        <form class="mt-3 flex flex-wrap items-end gap-2" onsubmit={pair}>
          <label class="min-w-0 grow"
            ><span class="eyebrow block">Where this one lies</span>
            <input
              class="field w-full"
              maxlength="40"
              placeholder="Booth row A"
              bind:value={tabletName}
            /></label
          >
          <button class="lead" disabled={tabletName.trim() === ''}>Make this a tablet of the shop</button>
        </form>
      {/if}
    </section>
  </div>
{/if}

<Dialog bind:open={adding} title="Add somebody">
  <form
    novalidate
    onsubmit={(event) => {
      event.preventDefault()
      void add()
    }}
  >
    <label class="block"
      ><span class="eyebrow">Name, as it is to stand on records</span>
      <input class="field mt-1 block w-full" maxlength="80" autocomplete="off" bind:value={name} /></label
    >
    <p class="min-h-6 font-semibold text-(--caution)" role="alert">{errors.name?.[0] ?? ''}</p>
    <label class="block"
      ><span class="eyebrow">What they are</span>
      <select class="field mt-1 block w-full" bind:value={role}>
        {#each ROLES as choice (choice)}<option value={choice}>{roleName(choice)}</option>{/each}
      </select></label
    >
    <div class="mt-3">
      <PinField bind:pin label="A first PIN; they choose their own later" error={errors.pin?.[0]} fresh />
    </div>
    <button class="lead w-full">Add</button>
  </form>
</Dialog>
<GivePin
  bind:to={givingTo}
  give={async ({ id }, pin) => {
    await ask(api.PUT('/api/people/{id}/pin', { params: { path: { id } }, body: { pin } }))
    await again()
  }}
/>
