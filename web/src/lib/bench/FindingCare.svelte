<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import type { Tell } from './coupon-words'
  import { repairName } from '$lib/words'
  import { inUnits } from '$lib/units.svelte'

  type Props = {
    finding: Schema['FindingView']
    closed: boolean
    oncause: (causeId: string) => void
    ontell: Tell
  }
  let { finding, closed, oncause, ontell }: Props = $props()

  const LEAVES = {
    allowed: '',
    breach: ', which this sitting forbids',
    void: ', which voids it as test evidence',
  }
  const STATES = {
    none: '',
    begun: 'Repaired: look at it again.',
    sound: 'Looked at again: sound.',
    notSound: 'Looked at again: not sound.',
  }
  const COOL_MINUTES = [2, 5, 10]
  const repair = $derived(finding.repair)

  function look(sound: boolean) {
    ontell(
      'lookedAgain',
      { findingId: finding.id, sound },
      `${finding.name}: ${sound ? 'sound' : 'not sound'}.`,
    )
  }
  function make(action: Schema['RepairAction'], minutes: number | null = null) {
    ontell(
      'repaired',
      { findingId: finding.id, action, minutes },
      `${repairName(action)}: kept with the finding.`,
    )
  }
  let cooling = $state(false)
</script>

{#if finding.causes.length}
  <p class="eyebrow mt-1">Why, most likely first</p>
  <ul class="flex flex-col gap-1">
    {#each finding.causes as cause (cause.id)}
      <li>
        <button
          class="plate w-full flex-col items-start gap-0 px-3 text-left"
          aria-pressed={finding.chosenCause === cause.id}
          disabled={closed}
          onclick={() => oncause(cause.id)}
        >
          <span>{cause.cause}</span>
          {#if cause.grounds.length}<span class="text-sm font-normal">{inUnits(cause.grounds.join(' '))}</span
            >{/if}
          <span class="text-sm font-normal opacity-85">{inUnits(cause.why)}</span>
          <span class="text-sm font-normal">Do now: {inUnits(cause.doNow)}</span>
          <span class="text-sm font-normal">Next time: {inUnits(cause.cure)}</span>
        </button>
      </li>
    {/each}
  </ul>
{/if}
<p class="eyebrow mt-1">
  Done about it{finding.repairs.length
    ? `: ${finding.repairs.map((one) => repairName(one.action).toLowerCase()).join(', ')}`
    : ''}{repair.tries > 1 ? `; ${repair.tries} refills` : ''}
</p>
{#if STATES[repair.state]}<p class="font-semibold" role="status">{STATES[repair.state]}</p>{/if}
{#if !closed}
  {#if repair.state === 'begun' || repair.state === 'notSound'}
    <div class="flex flex-wrap gap-1.5 py-1" role="group" aria-label="{finding.name} looked at again">
      <span class="eyebrow self-center">Look again</span>
      <button class="plate" onclick={() => look(true)}>Sound</button>
      <button class="plate" onclick={() => look(false)}>Not sound</button>
    </div>
  {/if}
  <div class="flex flex-wrap gap-1" role="group" aria-label="Repair of {finding.name}">
    {#each finding.repairChoices as choice (choice.action)}
      <button
        class="plate px-2 text-sm"
        aria-label="{repairName(choice.action)}{LEAVES[choice.leave]}"
        aria-expanded={choice.action === 'cool' ? cooling : undefined}
        class:line-through={choice.leave !== 'allowed'}
        onclick={() => (choice.action === 'cool' ? (cooling = !cooling) : make(choice.action))}
        >{repairName(choice.action)}</button
      >
    {/each}
  </div>
  {#if cooling}
    <div class="mt-1 flex flex-wrap gap-1" role="group" aria-label="Let cool for">
      {#each COOL_MINUTES as minutes (minutes)}
        <button
          class="plate number px-2"
          onclick={() => {
            cooling = false
            make('cool', minutes)
          }}>{minutes} min</button
        >
      {/each}
      <button
        class="plate px-2"
        onclick={() => {
          cooling = false
          make('cool')
        }}>not timed</button
      >
    </div>
  {/if}
{/if}
