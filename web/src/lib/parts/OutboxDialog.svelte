<script lang="ts">
  import Dialog from '$lib/ui/Dialog.svelte'
  import { api, ask, type Schema } from '$lib/api/client'
  import { moment } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import { outbox, type Waiting } from '$lib/outbox.svelte'
  import { session } from '$lib/session.svelte'
  import { processName } from '$lib/words'

  let { open = $bindable() }: { open: boolean } = $props()
  let theirs = $state<Record<number, Schema['PassView'] | null>>({})

  const mine = (item: Waiting) => item.body as Schema['RecordPass']
  const isPass = (item: Waiting) => item.method === 'PUT' && item.path.includes('/passes/')
  const said = (pass: { process: string | null; electrodeClass: string | null; amps: number | null }) =>
    `${processName(pass.process ?? '')} ${pass.electrodeClass ?? ''}, ${pass.amps} A`

  $effect(() => {
    if (!open) return
    for (const item of outbox.refused.filter(isPass)) {
      if (theirs[item.seq!] !== undefined) continue
      void standing(item).then((pass) => (theirs[item.seq!] = pass))
    }
  })

  async function standing(item: Waiting): Promise<Schema['PassView'] | null> {
    const coupon = await ask(
      api.GET('/api/coupons/{couponId}', { params: { path: { couponId: item.couponId } } }),
    ).catch(() => null)
    return coupon?.beads.find((bead) => bead.key === mine(item).beadKey)?.pass ?? null
  }

  async function takeMine(item: Waiting) {
    await notices.attempt(async () => {
      const other = theirs[item.seq!]
      if (other)
        await ask(
          api.DELETE('/api/coupons/{couponId}/passes/{id}', {
            params: { path: { couponId: item.couponId, id: other.id } },
          }),
        )
      await outbox.again(item.seq!)
    })
  }
</script>

<Dialog bind:open title="Not on the server yet" size="md">
  <ul class="flex flex-col gap-3">
    {#each outbox.items as item (item.seq)}
      <li class="border-t pt-2">
        {#if item.happenedAt}<p class="text-sm text-(--soft)">
            {item.authorName ? `${item.authorName}, ` : ''}{moment(
              new Date(item.happenedAt).toISOString(),
              session.timeZone,
            )}
          </p>{/if}
        {#if item.refused}
          <p class="font-semibold text-(--caution)">{item.label}: {item.refused}</p>
          {#if isPass(item)}
            <div class="mt-1 grid gap-2 sm:grid-cols-2">
              <div class="sheet p-2">
                <p class="eyebrow">Yours</p>
                <p class="number text-lg">{said(mine(item))}</p>
                <button class="plate mt-1 w-full" onclick={() => takeMine(item)}>Keep yours</button>
              </div>
              <div class="sheet p-2">
                <p class="eyebrow">
                  {theirs[item.seq!] ? `${theirs[item.seq!]!.recordedBy}’s` : 'On the server'}
                </p>
                <p class="number text-lg">{theirs[item.seq!] ? said(theirs[item.seq!]!) : '…'}</p>
                <button class="plate mt-1 w-full" onclick={() => outbox.drop(item.seq!)}>Keep theirs</button>
              </div>
            </div>
          {:else}
            <div class="mt-1 flex gap-2">
              <button class="plate" onclick={() => outbox.again(item.seq!).catch(() => {})}>Send again</button
              >
              <button class="plate" onclick={() => outbox.drop(item.seq!)}>Give it up</button>
            </div>
          {/if}
        {:else}
          <p>{item.label}: waits for the server.</p>
        {/if}
      </li>
    {:else}
      <li>Everything is on the server.</li>
    {/each}
  </ul>
</Dialog>
