<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { SvelteSet } from 'svelte/reactivity'
  import { api, ask, type Schema } from '$lib/api/client'
  import { changed } from '$lib/changed'
  import { dayOf } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { session } from '$lib/session.svelte'
  import Dialog from '$lib/ui/Dialog.svelte'
  import GivePin from './GivePin.svelte'

  let { group }: { group: Schema['ClassView'] } = $props()
  const client = useQueryClient()
  const students = createQuery(() => ({
    queryKey: ['classes', group.id, 'students'],
    queryFn: () => ask(api.GET('/api/classes/{id}/students', { params: { path: { id: group.id } } })),
  }))
  const ticked = new SvelteSet<string>()
  let givingTo = $state<Schema['ClassStudent'] | null>(null)
  let given = $state<Schema['GivenPin'][] | null>(null)
  const unsigned = $derived((students.data ?? []).filter((one) => !one.safetySignedAt))
  const without = $derived((students.data ?? []).filter((one) => !one.hasPin))

  const toggle = (id: string) => (ticked.has(id) ? ticked.delete(id) : ticked.add(id))

  async function sign() {
    const ids = [...ticked]
    const done = await notices.attempt(() =>
      ask(
        api.PUT('/api/classes/{id}/safety', { params: { path: { id: group.id } }, body: { students: ids } }),
      ),
    )
    if (!done) return
    ticked.clear()
    notices.add(`Safety is signed off for ${ids.length} ${ids.length === 1 ? 'student' : 'students'}.`)
    await changed(client, 'student')
    await client.invalidateQueries({ queryKey: ['classes'] })
  }

  async function give() {
    await notices.attempt(async () => {
      given = await ask(api.POST('/api/classes/{id}/pins', { params: { path: { id: group.id } } }))
    })
    await client.invalidateQueries({ queryKey: ['classes'] })
  }
</script>

<section class="sheet p-3" aria-label={group.name}>
  <div class="flex flex-wrap items-center gap-2">
    <h2 class="mr-auto min-w-0 text-xl [overflow-wrap:anywhere]">{group.name}</h2>
    {#if unsigned.length}
      <button class="plate" onclick={() => unsigned.forEach((one) => ticked.add(one.id))}
        >{unsigned.length === 1 ? 'Tick the one unsigned' : `Tick all ${unsigned.length} unsigned`}</button
      >
    {/if}
    {#if without.length}
      <button class="plate" onclick={give}>PINs for {without.length} without</button>
    {/if}
  </div>
  {#if !students.data}
    <Waiting error={students.error} retry={() => students.refetch()} what="The class list" />
  {:else}
    <table class="ledger mt-2 w-full">
      <thead class="text-sm text-(--soft)">
        <tr>
          <th class="py-1 font-semibold">Student</th>
          <th class="font-semibold">Safety</th>
          <th class="font-semibold">Sign-in</th>
        </tr>
      </thead>
      <tbody>
        {#each students.data as one (one.id)}
          <tr>
            <td class="py-1 pr-2"
              ><a
                class="block py-2 [overflow-wrap:anywhere] underline decoration-(--line) underline-offset-4"
                href="/students/{one.id}">{one.name}</a
              ></td
            >
            <td class="pr-2"
              >{#if one.safetySignedAt}<span class="text-sm"
                  >{dayOf(one.safetySignedAt, session.timeZone)}</span
                >{:else}<label class="flex min-h-[48px] items-center gap-2"
                  ><input
                    type="checkbox"
                    class="h-6 w-6"
                    checked={ticked.has(one.id)}
                    onchange={() => toggle(one.id)}
                    aria-label="Safety of {one.name}"
                  /><span class="text-(--caution)">not signed</span></label
                >{/if}</td
            >
            <td
              >{#if one.hasPin}<button
                  class="bare"
                  aria-label="New PIN for {one.name}"
                  onclick={() => (givingTo = one)}>New PIN</button
                >{:else}<span class="text-sm text-(--soft)">no PIN yet</span>{/if}</td
            >
          </tr>
        {:else}
          <tr><td colspan="3" class="p-4 text-center text-(--soft)">Nobody is in this class yet.</td></tr>
        {/each}
      </tbody>
    </table>
    {#if ticked.size}
      <p class="mt-3 text-sm text-(--soft)">
        You sign that each of them was shown the shop's rules, the protection and the way out, and has shown
        it back.
      </p>
      <button class="lead mt-1" onclick={sign}
        >Sign safety off for {ticked.size} {ticked.size === 1 ? 'student' : 'students'}</button
      >
    {/if}
  {/if}
</section>

<Dialog
  bind:open={
    () => given !== null,
    (value) => {
      if (!value) given = null
    }
  }
  title="PINs, told once"
>
  <p class="mb-2 text-(--soft)">Write them down or print them now: only their shadow is kept.</p>
  <table class="ledger w-full">
    <tbody>
      {#each given ?? [] as one (one.studentId)}
        <tr
          ><td class="py-1 pr-4 [overflow-wrap:anywhere]">{one.name}</td><td class="number text-xl"
            >{one.pin}</td
          ></tr
        >
      {:else}<tr><td>Everybody in this class has one.</td></tr>{/each}
    </tbody>
  </table>
  <button class="plate mt-3" onclick={() => print()}>Print</button>
</Dialog>
<GivePin
  bind:to={
    () => givingTo,
    (to) => {
      if (!to) givingTo = null
    }
  }
  give={({ id }, pin) => ask(api.PUT('/api/students/{id}/pin', { params: { path: { id } }, body: { pin } }))}
/>
