<script lang="ts">
  import Modal from 'flowbite-svelte/Modal.svelte'
  import type { Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import { takeBackEvent, tellEvent } from '$lib/recording'
  import { stateName, timerName, voidName, voidReasons } from '$lib/words'
  import PutRight from './PutRight.svelte'
  import ReasonDialog from './ReasonDialog.svelte'
  import TimerChip from './TimerChip.svelte'

  let { coupon, onchanged }: { coupon: Schema['CouponView']; onchanged: () => Promise<unknown> } = $props()

  const VOID_OTHER: Schema['VoidReason'] = 'other'
  const life = $derived(coupon.life)
  const closed = $derived(coupon.closedAt != null)
  const running = $derived(new Map(life.timers.map((one) => [one.timer, one])))
  const called = $derived(new Set(life.holds.map((one) => one.point)))
  const voided = $derived(life.events.findLast((one) => one.kind === 'voided'))
  const purged = $derived(coupon.test.joint.backing.kind === 'gas' || coupon.test.joint.insert != null)
  // The computed time first, then rounder ones about it.
  const minutesOf = (which: Schema['BenchTimer']) => {
    const computed = which === 'purge' ? Math.ceil(life.purgeMinutes * 10) / 10 : life.coolMinutes
    const others = which === 'purge' ? [3, 6, 10, 15] : [2, 5, 10]
    return computed > 0 ? [computed, ...others.filter((one) => one > computed)] : others
  }
  let putting = $state(false)
  let other = $state(false)
  let choosing = $state<Schema['BenchTimer'] | null>(null)
  let voiding = $state(false)
  let breaching = $state(false)

  const tell = (kind: Schema['BenchEventKind'], body: Partial<Schema['BenchEventBody']>, says: string) =>
    tellEvent(coupon.id, kind, body, says, onchanged)

  function timer(which: Schema['BenchTimer']) {
    if (running.has(which)) void tell('timerStopped', { timer: which }, `${timerName(which)} stopped.`)
    else if (which === 'cool' || which === 'purge') choosing = choosing === which ? null : which
    else
      void tell(
        'timerStarted',
        { timer: which, minutes: which === 'sitting' ? coupon.test.rules.timeLimitMinutes : null },
        `${timerName(which)} runs.`,
      )
  }
</script>

<div class="flex flex-wrap items-center gap-1.5 pb-2" role="group" aria-label="The coupon now">
  <span class="eyebrow mr-1 text-base">{stateName(life.state)}</span>
  {#each life.timers as one (one.eventId)}<TimerChip timer={one} />{/each}
  {#if !closed}
    {#if life.state === 'planned'}
      <button class="plate" onclick={() => tell('cut', {}, 'Material cut.')}>Material cut</button>
    {/if}
    {#if !life.positionStands}
      <button
        class="plate bg-(--straw-ground)"
        onclick={() => tell('positionWitnessed', {}, 'Position witnessed.')}>Position witnessed</button
      >
    {:else if life.state !== 'planned' && life.state !== 'cut'}
      <button class="plate" onclick={() => tell('takenDown', {}, 'Taken down: witness its position again.')}
        >Taken down</button
      >
    {/if}
    {#each ['cool', ...(purged ? ['purge'] : []), 'arc', ...(coupon.asTest ? ['sitting'] : [])] as Schema['BenchTimer'][] as which (which)}
      <button class="plate px-2" aria-pressed={running.has(which)} onclick={() => timer(which)}
        >{timerName(which)}</button
      >
    {/each}
    <span class="eyebrow ml-2">Call to</span>
    {#each coupon.test.holdPoints as point (point)}
      {#if called.has(point)}
        <span class="inline-flex border-2 border-(--bronze)">
          <span class="flex items-center px-2 font-semibold">{point}?</span>
          <button
            class="lead rounded-none border-0"
            aria-label="{point}: go on"
            onclick={() => tell('holdAnswered', { point, go: true }, `${point}: go on.`)}>Go</button
          >
          <button
            class="plate rounded-none border-0"
            aria-label="{point}: mend first"
            onclick={() => tell('holdAnswered', { point, go: false }, `${point}: mend first.`)}>Mend</button
          >
        </span>
      {:else}
        <button
          class="plate px-2"
          aria-label="Call the instructor: {point}"
          onclick={() => tell('holdCalled', { point }, `Called: ${point}.`)}>{point.toLowerCase()}</button
        >
      {/if}
    {/each}
    {#if coupon.asTest}
      <button class="plate px-2" onclick={() => (breaching = true)}>Breach</button>
    {/if}
  {/if}
  <a class="plate ml-auto px-2" href="/coupons/{coupon.id}/tag">Tag</a>
  {#if life.state !== 'void'}
    <button class="plate px-2" onclick={() => (putting = true)}>Put right</button>
    <button class="plate px-2" onclick={() => (voiding = true)}>Void</button>
  {/if}
</div>

{#if choosing && !closed}
  <div class="flex flex-wrap items-center gap-1.5 pb-2" role="group" aria-label="{timerName(choosing)} for">
    <span class="eyebrow">{timerName(choosing)} for</span>
    {#each minutesOf(choosing) as minutes, index (minutes)}
      <button
        class="plate number text-lg"
        onclick={() => {
          void tell(
            'timerStarted',
            { timer: choosing, minutes },
            `${timerName(choosing!)} for ${minutes} min.`,
          )
          choosing = null
        }}
        >{minutes} min{#if index === 0 && (choosing === 'cool' || life.purgeMinutes > 0)}<span class="text-sm"
            >as computed</span
          >{/if}</button
      >
    {/each}
  </div>
{/if}
{#if voided}
  <p class="mb-2 border-l-4 border-(--caution) bg-(--caution-ground) px-3 py-2" role="status">
    <strong class="text-(--caution)"
      >Void: {life.voidReason === VOID_OTHER && voided.body.note
        ? voided.body.note
        : voidName(life.voidReason!)}.</strong
    >
    It counts for nothing, and stays on record.
    <button
      class="plate ml-2"
      onclick={async () => {
        await notices.attempt(() => takeBackEvent(coupon.id, voided.id))
        await onchanged()
      }}>Take it back</button
    >
  </p>
{:else if life.breaches.length}
  <p class="mb-2 border-l-4 border-(--caution) bg-(--caution-ground) px-3 py-2" role="status">
    <strong class="text-(--caution)">{life.breaches.map((one) => one.says).join(' ')}</strong>
    {life.downgraded ? 'It counts as coached work only.' : ''}
  </p>
{/if}

<Modal bind:open={voiding} title="Why does it not count?" size="sm">
  <div class="flex flex-wrap gap-1.5">
    {#each voidReasons as reason (reason)}
      <button
        class="plate"
        onclick={() => {
          voiding = false
          if (reason === VOID_OTHER) other = true
          else void tell('voided', { reason }, `Given up: ${voidName(reason).toLowerCase()}.`)
        }}>{voidName(reason)}</button
      >
    {/each}
  </div>
</Modal>
<Modal bind:open={breaching} title="Which rule was broken?" size="sm">
  <div class="flex flex-wrap gap-1.5">
    {#each [['help', 'Helped'], ['grinder', 'Grinder used'], ['arcStrike', 'Arc strike outside'], ['timeLimit', 'Over time']] as [Schema['SittingRule'], string][] as [rule, name] (rule)}
      <button
        class="plate"
        onclick={() => {
          breaching = false
          void tell('breach', { rule, note: `${name}, as seen.` }, `${name}: noted.`)
        }}>{name}</button
      >
    {/each}
  </div>
</Modal>
<ReasonDialog
  bind:open={other}
  title="Why does it not count?"
  usual={[]}
  label="The reason"
  act="Give it up"
  onsay={(note) => tell('voided', { reason: VOID_OTHER, note }, 'Given up.')}
/>
<PutRight
  bind:open={putting}
  {coupon}
  onput={(correction) =>
    tell('corrected', { correction: correction as Schema['CouponCorrection'] }, 'Put right.')}
/>
