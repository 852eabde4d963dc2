<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, newId } from '$lib/api/client'
  import { changed } from '$lib/changed'
  import { notices } from '$lib/notices.svelte'
  import Dialog from '$lib/ui/Dialog.svelte'
  import type { Schema } from '$lib/api/client'
  import { session } from '$lib/session.svelte'
  import Menu from '$lib/ui/Menu.svelte'
  import { stateName, voidName, voidReasons } from '$lib/words'
  import PutRight from './PutRight.svelte'
  import ReasonDialog from './ReasonDialog.svelte'
  import { VOID_OTHER, type Tell } from './coupon-words'

  let { coupon, ontell }: { coupon: Schema['CouponView']; ontell: Tell } = $props()

  const RULES: [Schema['SittingRule'], string][] = [
    ['help', 'Helped'],
    ['grinder', 'Grinder used'],
    ['arcStrike', 'Arc strike outside'],
    ['timeLimit', 'Over time'],
  ]
  const life = $derived(coupon.life)
  const closed = $derived(coupon.closedAt != null)
  const client = useQueryClient()

  // What is left of it can be welded on once more: by how far it was laid.
  const laid = $derived(new Set(coupon.beads.filter((bead) => bead.runs.length).map((bead) => bead.stage)))
  const blank = $derived(
    coupon.drillId != null ? null : laid.has('fill') ? 'filled' : laid.has('root') ? 'root in' : null,
  )
  const move = (amount: number, why: string) =>
    ask(
      api.PUT('/api/stock/moves/{id}', {
        params: { path: { id: newId() } },
        body: {
          stock: `Blank ${coupon.test.id}, ${blank}`,
          unit: 'each',
          lengthMm: null,
          amount,
          why,
          offCut: false,
        },
      }),
    )
  async function keep() {
    await notices.attempt(async () => {
      await move(1, `Kept from ${coupon.stamp}`)
      notices.add(`Kept as a blank: ${coupon.test.id}, ${blank}.`, 'done', async () => {
        await move(-1, 'Taken back')
        await changed(client, 'stock')
      })
      await changed(client, 'stock')
    })
  }

  let putting = $state(false)
  let other = $state(false)
  let voiding = $state(false)
  let breaking = $state(false)
</script>

<Menu>
  {#snippet button()}More{/snippet}
  <p class="eyebrow px-2">{stateName(life.state)}</p>
  <a class="bare px-2" href="/coupons/{coupon.id}/tag">Tag for the steel</a>
  {#if !closed}
    {#if life.state === 'planned'}
      <button class="bare px-2" data-closes onclick={() => ontell('cut', {}, 'Material cut.')}
        >Material cut</button
      >
    {:else if life.state !== 'cut' && life.positionStands && !session.isStudent}
      <button
        class="bare px-2"
        data-closes
        onclick={() => ontell('takenDown', {}, 'Taken down: witness its position again.')}>Taken down</button
      >
    {/if}
    {#if coupon.asTest && !session.isStudent}
      <button class="bare px-2" data-closes onclick={() => (breaking = true)}>A rule was broken</button>
    {/if}
  {/if}
  {#if (closed || life.state === 'void') && blank && !session.isStudent}
    <button class="bare px-2" data-closes onclick={keep}>Keep it as a blank</button>
  {/if}
  {#if life.state !== 'void' && !session.isStudent}
    <button class="bare px-2" data-closes onclick={() => (putting = true)}>Put right</button>
    <button class="bare px-2" data-closes onclick={() => (voiding = true)}>Give it up</button>
  {/if}
</Menu>

<Dialog bind:open={voiding} title="Why does it not count?" size="sm">
  <div class="flex flex-wrap gap-1.5">
    {#each voidReasons as reason (reason)}
      <button
        class="plate"
        onclick={() => {
          voiding = false
          if (reason === VOID_OTHER) other = true
          else ontell('voided', { reason }, `Given up: ${voidName(reason).toLowerCase()}.`)
        }}>{voidName(reason)}</button
      >
    {/each}
  </div>
</Dialog>
<Dialog bind:open={breaking} title="Which rule was broken?" size="sm">
  <div class="flex flex-wrap gap-1.5">
    {#each RULES as [rule, name] (rule)}
      <button
        class="plate"
        onclick={() => {
          breaking = false
          ontell('breach', { rule, note: `${name}, as seen.` }, `${name}: noted.`)
        }}>{name}</button
      >
    {/each}
  </div>
</Dialog>
<ReasonDialog
  bind:open={other}
  title="Why does it not count?"
  usual={[]}
  label="The reason"
  act="Give it up"
  onsay={(note) => ontell('voided', { reason: VOID_OTHER, note }, 'Given up.')}
/>
<PutRight
  bind:open={putting}
  {coupon}
  onput={(correction) =>
    ontell('corrected', { correction: correction as Schema['CouponCorrection'] }, 'Put right.')}
/>
