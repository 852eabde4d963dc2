<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { moment } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import VerdictMark from '$lib/parts/VerdictMark.svelte'
  import { labQuery } from '$lib/queries'
  import { session } from '$lib/session.svelte'
  import Notice from '$lib/ui/Notice.svelte'
  import { inUnits, lengthText } from '$lib/units.svelte'
  import { spaced } from '$lib/words'
  import { seenText } from './lab-words'

  let { coupon }: { coupon: Schema['CouponView'] } = $props()
  type Order = Schema['LabOrderView']
  const client = useQueryClient()
  const lab = labQuery(() => coupon.id)
  let giving = $state(false)
  let chosen = $state<number[]>([])
  let labId = $state('')
  let busy = $state(false)
  let id = newId()

  const labs = $derived(lab.data?.laboratories ?? [])
  const orders = $derived(lab.data?.orders ?? [])
  const open = $derived(orders.filter((one) => one.doneAt == null))
  const away = $derived(new Set(open.flatMap((one) => one.specimens.map((it) => it.specimen))))
  const tested = $derived(new Set(coupon.life.specimens.map((one) => one.specimen)))
  const left = $derived(coupon.test.specimens.map((_, index) => index).filter((index) => !away.has(index)))
  const marks = (order: Order) => order.specimens.map((one) => `${one.mark} ${spaced(one.kind)}`).join(', ')
  const at = (when: string) => moment(when, session.timeZone)
  const path = (order: Order) => ({ path: { couponId: coupon.id, id: order.id } })

  function begin() {
    chosen = left.filter((index) => !tested.has(index))
    labId = labs[0]?.id ?? ''
    id = newId()
    giving = true
  }
  const toggle = (index: number) =>
    (chosen = chosen.includes(index) ? chosen.filter((one) => one !== index) : [...chosen, index])

  /** Does it, and reads the coupon anew: what was taken over is judged now. */
  async function act(says: string, call: () => Promise<unknown>) {
    busy = true
    await notices.attempt(async () => {
      await call()
      giving = false
      notices.add(says, 'done')
      await client.invalidateQueries({ queryKey: ['coupon', coupon.id] })
      await client.invalidateQueries({ queryKey: ['due'] })
    })
    busy = false
  }
  const give = () =>
    act('Given to the laboratory.', () =>
      ask(
        api.PUT('/api/coupons/{couponId}/lab/{id}', {
          params: { path: { couponId: coupon.id, id } },
          body: { deviceId: labId, specimens: chosen },
        }),
      ),
    )
  const takeOver = (order: Order) =>
    act('Taken over: it is judged now.', () =>
      ask(api.PUT('/api/coupons/{couponId}/lab/{id}/taken', { params: path(order) })),
    )
  const end = (order: Order) =>
    act(order.returnedAt == null ? 'Called back.' : 'Put aside.', () =>
      ask(api.PUT('/api/coupons/{couponId}/lab/{id}/ended', { params: path(order) })),
    )
</script>

{#snippet files(order: Order)}
  {#each order.files as file (file.id)}
    <a
      class="bare break-all"
      href="/api/coupons/{coupon.id}/lab/{order.id}/files/{file.id}"
      target="_blank"
      rel="noopener">{file.name}</a
    >
  {/each}
{/snippet}

{#snippet seen(order: Order)}
  <ul class="mt-1">
    {#each order.found as one (one.found.specimen)}
      {@const mark = order.specimens.find((it) => it.specimen === one.found.specimen)!}
      <li class="flex flex-wrap items-baseline gap-x-3">
        <b class="number">{mark.mark}</b>
        <span>{spaced(mark.kind)}: {seenText(one.found)}</span>
        {#if one.verdict}<VerdictMark kind={one.verdict.kind} />
          {@const reason = one.verdict.reasons[0]}
          {#if reason}<span class="text-sm text-(--soft)"
              >{inUnits(reason.rule)}
              {reason.limit != null && reason.measure?.endsWith('Mm')
                ? `Limit ${lengthText(reason.limit)}.`
                : ''}</span
            >{/if}{/if}
        {#if one.found.remark}<span class="w-full text-sm [overflow-wrap:anywhere]">{one.found.remark}</span
          >{/if}
      </li>
    {/each}
  </ul>
  {#if order.remark}<p class="text-sm [overflow-wrap:anywhere]">{order.remark}</p>{/if}
{/snippet}

{#if lab.data && (labs.length || orders.length)}
  <section class="mt-2 flex flex-col gap-2 border-t pt-2" aria-label="Laboratory">
    <p class="eyebrow">Laboratory</p>
    {#each open as order (order.id)}
      <Notice tone="waits">
        {#if order.returnedAt == null}
          <strong>{order.laboratory}</strong> has {marks(order)} since {at(order.sentAt)}{order.receivedAt
            ? '. They have arrived.'
            : '. It has not said yet that they arrived.'}
        {:else}
          Back from <strong>{order.laboratory}</strong> since {at(order.returnedAt)}{order.found.length
            ? ''
            : ': a report, without results of its own. Enter what it says by hand.'}
          {@render seen(order)}
          {@render files(order)}
        {/if}
        {#snippet acts()}
          {#if !session.isStudent}
            {#if order.found.length}<button class="lead" disabled={busy} onclick={() => takeOver(order)}
                >Take it over</button
              >{/if}
            <button class="bare" disabled={busy} onclick={() => end(order)}
              >{order.returnedAt == null
                ? 'Call back'
                : order.found.length
                  ? 'Put aside'
                  : 'It is entered'}</button
            >
          {/if}
        {/snippet}
      </Notice>
    {/each}
    {#if giving}
      <div
        class="flex flex-col gap-2 border-l-4 border-(--straw) pl-3"
        role="group"
        aria-label="Give specimens"
      >
        <p>Strike its mark into each: at the laboratory it goes by that alone.</p>
        <div class="flex flex-wrap gap-1.5">
          {#each left as index (index)}
            <button class="plate px-2" aria-pressed={chosen.includes(index)} onclick={() => toggle(index)}
              ><b class="number">{coupon.stamp}-{index + 1}</b>
              {spaced(coupon.test.specimens[index]!.kind)}</button
            >
          {/each}
        </div>
        {#if labs.length > 1}
          <label
            ><span class="eyebrow">To</span>
            <select class="field mt-1 block w-full max-w-sm" bind:value={labId}>
              {#each labs as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
            </select></label
          >
        {/if}
        <span class="flex flex-wrap gap-2"
          ><button class="lead" disabled={busy || !chosen.length || !labId} onclick={give}
            >Give {chosen.length === 1 ? 'it' : `these ${chosen.length}`} to {labs.find(
              (one) => one.id === labId,
            )?.name}</button
          ><button class="bare" onclick={() => (giving = false)}>Cancel</button></span
        >
      </div>
    {:else if labs.length && left.length && !session.isStudent && coupon.life.voidReason == null}
      <button class="plate self-start" onclick={begin}>Give specimens to a laboratory</button>
    {/if}
    {#each orders.filter((one) => one.doneAt != null) as order (order.id)}
      <p class="text-sm">
        {order.isTaken ? 'Taken over from' : order.returnedAt ? 'Put aside from' : 'Called back from'}
        {order.laboratory}, {at(order.doneAt!)}: {marks(order)}
        {@render files(order)}
      </p>
    {/each}
  </section>
{/if}
