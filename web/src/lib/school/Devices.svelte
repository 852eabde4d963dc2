<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { moment } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { floorQuery } from '$lib/queries'
  import { session } from '$lib/session.svelte'
  import Dialog from '$lib/ui/Dialog.svelte'

  type Device = Schema['DeviceView']
  const LOOK_AGAIN_MS = 5000
  const client = useQueryClient()
  const devices = createQuery(() => ({
    queryKey: ['devices'],
    queryFn: () => ask(api.GET('/api/devices')),
    refetchInterval: LOOK_AGAIN_MS,
  }))
  const floor = floorQuery()
  // Both are read each time: a query tells only of what was read of it, and the one that answers first would stay unheard.
  const known = $derived({ devices: devices.data, booths: floor.data?.booths })
  let open = $state(false)
  let changing = $state<Device | null>(null)
  let kind = $state<Device['kind']>('arcLogger')
  let name = $state('')
  let boothId = $state('')
  let leadVolts = $state('')
  let key = $state<string | null>(null)
  let busy = $state(false)
  let id = newId()

  // Shown once: put away, it is nowhere on the page any more.
  $effect(() => {
    if (!open) key = null
  })

  const free = $derived(
    (known.booths ?? []).filter(
      (booth) => !known.devices?.some((one) => one.boothId === booth.id && one.id !== changing?.id),
    ),
  )
  const volts = $derived(leadVolts.trim() === '' ? 0 : Number(leadVolts.replace(',', '.')))
  const isLab = $derived(kind === 'laboratory')
  const isFit = $derived(name.trim() !== '' && (isLab || (boothId !== '' && volts >= 0 && volts <= 5)))
  const CLOCK_OFF_MS = 60_000

  function edit(one: Device | null, of: Device['kind'] = 'arcLogger') {
    changing = one
    kind = one?.kind ?? of
    id = one?.id ?? newId()
    name = one?.name ?? ''
    boothId = one?.boothId ?? ''
    leadVolts = one?.leadVolts ? String(one.leadVolts) : ''
    key = null
    open = true
  }

  async function save(event: SubmitEvent) {
    event.preventDefault()
    busy = true
    await notices.attempt(async () => {
      const paired = await ask(
        api.PUT('/api/devices/{id}', {
          params: { path: { id } },
          body: isLab
            ? { kind, name: name.trim(), boothId: null, leadVolts: null }
            : { kind, name: name.trim(), boothId, leadVolts: volts },
        }),
      )
      key = paired.key
      if (!key) {
        open = false
        notices.add('Saved.', 'done')
      }
      await client.invalidateQueries({ queryKey: ['devices'] })
    })
    busy = false
  }

  async function remove(one: Device) {
    await notices.attempt(async () => {
      await ask(api.PUT('/api/devices/{id}/removed', { params: { path: { id: one.id } } }))
      notices.add(`${one.name} is taken away: its key opens nothing any more.`, 'done')
      await client.invalidateQueries({ queryKey: ['devices'] })
    })
  }

  const stateOf = (one: Device) =>
    one.heardAt == null
      ? 'Nothing came from it yet'
      : `${Date.now() - Date.parse(one.heardAt) < 10_000 ? 'Sends right now' : `Last heard ${moment(one.heardAt, session.timeZone)}`}${
          one.aheadMs != null && Math.abs(one.aheadMs) > CLOCK_OFF_MS
            ? `; its clock is ${Math.round(Math.abs(one.aheadMs) / 60_000)} min ${one.aheadMs > 0 ? 'behind' : 'ahead'}, which is allowed for`
            : ''
        }`
</script>

{#if !known.devices || !known.booths}
  <Waiting
    error={devices.error ?? floor.error}
    retry={() => {
      void devices.refetch()
      void floor.refetch()
    }}
    what="The devices"
  />
{:else}
  <section class="sheet max-w-3xl p-3" aria-label="Arc loggers">
    <div class="flex flex-wrap items-center gap-3">
      <h2 class="mr-auto text-xl">Arc loggers</h2>
      {#if session.isLead}<button class="plate" disabled={free.length === 0} onclick={() => edit(null)}
          >Pair an arc logger</button
        >{/if}
    </div>
    <p class="text-(--soft)">
      Each measures current and volts at the machine of one booth. What it sees stands under the bead; it is
      no verdict.
    </p>
    <ul class="mt-2">
      {#each known.devices.filter((one) => one.kind === 'arcLogger') as one (one.id)}
        <li class="flex flex-wrap items-center gap-x-3 gap-y-1 border-t py-2 first:border-t-0">
          <span class="number w-20 shrink-0 text-xl">Booth {one.booth}</span>
          <span class="min-w-0 grow"
            ><span class="text-lg [overflow-wrap:anywhere]">{one.name}</span><br /><span
              class="text-sm text-(--soft)"
              >{stateOf(one)}{one.leadVolts ? `; ${one.leadVolts} V are lost in the leads` : ''}</span
            ></span
          >
          {#if session.isLead}
            <button class="plate" aria-label="Change {one.name}" onclick={() => edit(one)}>Change</button>
            <button class="bare" aria-label="Take {one.name} away" onclick={() => remove(one)}
              >Take away</button
            >
          {:else}<span class="text-sm text-(--soft)">paired {moment(one.pairedAt, session.timeZone)}</span
            >{/if}
        </li>
      {:else}
        <li class="py-2 text-(--soft)">None yet.</li>
      {/each}
    </ul>
  </section>
  <section class="sheet mt-3 max-w-3xl p-3" aria-label="Laboratories">
    <div class="flex flex-wrap items-center gap-3">
      <h2 class="mr-auto text-xl">Laboratories</h2>
      {#if session.isLead}<button class="plate" onclick={() => edit(null, 'laboratory')}
          >Pair a laboratory</button
        >{/if}
    </div>
    <p class="text-(--soft)">
      Specimens are given to one on their coupon, by the mark that is struck into them; no name goes along.
      What it saw is judged once an instructor takes it over.
    </p>
    <ul class="mt-2">
      {#each known.devices.filter((one) => one.kind === 'laboratory') as one (one.id)}
        <li class="flex flex-wrap items-center gap-x-3 gap-y-1 border-t py-2 first:border-t-0">
          <span class="min-w-0 grow"
            ><span class="text-lg [overflow-wrap:anywhere]">{one.name}</span><br /><span
              class="text-sm text-(--soft)">paired {moment(one.pairedAt, session.timeZone)}</span
            ></span
          >
          {#if session.isLead}
            <button class="plate" aria-label="Change {one.name}" onclick={() => edit(one)}>Change</button>
            <button class="bare" aria-label="Take {one.name} away" onclick={() => remove(one)}
              >Take away</button
            >{/if}
        </li>
      {:else}
        <li class="py-2 text-(--soft)">None yet.</li>
      {/each}
    </ul>
  </section>
{/if}

<Dialog
  bind:open
  title={key
    ? `The key of the ${isLab ? 'laboratory' : 'logger'}`
    : changing
      ? `Change ${changing.name}`
      : isLab
        ? 'Pair a laboratory'
        : 'Pair an arc logger'}
>
  {#if key}
    <p>Give it to the {isLab ? 'laboratory' : 'logger'} now: it is shown this once, and kept nowhere.</p>
    <p class="stamp my-3 text-lg [overflow-wrap:anywhere] select-all">{key}</p>
    <button class="lead w-full" onclick={() => (open = false)}
      >{isLab ? 'The laboratory has it' : 'The logger has it'}</button
    >
  {:else}
    <form novalidate onsubmit={save}>
      {#if !isLab}<label class="block"
          ><span class="eyebrow">Booth</span>
          <select class="field mt-1 block w-full" bind:value={boothId}>
            <option value="" disabled>Choose a booth</option>
            {#each free as booth (booth.id)}<option value={booth.id}>Booth {booth.number}</option>{/each}
          </select></label
        >{/if}
      <label class="mt-3 block"
        ><span class="eyebrow">Name</span>
        <input
          class="field mt-1 block w-full"
          maxlength="60"
          placeholder={isLab ? 'Test bay' : 'Logger, row A'}
          bind:value={name}
        /></label
      >
      {#if !isLab}<label class="mt-3 block"
          ><span class="eyebrow">Lost in the leads, V</span>
          <span class="block text-sm text-(--soft)"
            >Measured at the machine less at the arc, usually 0.5 to 2 V. Empty: nothing is taken off.</span
          >
          <input class="field number mt-1 block w-24" inputmode="decimal" bind:value={leadVolts} /></label
        >{/if}
      {#if !isLab && !(volts >= 0 && volts <= 5)}
        <p class="font-semibold text-(--caution)" role="alert">From 0 to 5 V.</p>
      {/if}
      <button class="lead mt-4 w-full" disabled={!isFit || busy}>{changing ? 'Save' : 'Pair it'}</button>
    </form>
  {/if}
</Dialog>
