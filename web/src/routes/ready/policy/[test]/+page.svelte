<script lang="ts">
  import LeadsOwn from '$lib/parts/LeadsOwn.svelte'
  import { changed } from '$lib/changed'
  import { useQueryClient } from '@tanstack/svelte-query'
  import { page } from '$app/state'
  import { api, ask, Refused, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { policyQuery } from '$lib/queries'

  type Policy = Schema['TestPolicy']
  type Setting = keyof Policy
  const client = useQueryClient()
  const query = policyQuery(() => page.params.test!)
  let draft = $state<Policy | null>(null)
  let errors = $state<Record<string, string[]>>({})
  // Of each test its own.
  $effect.pre(() => {
    void page.params.test
    draft = null
    errors = {}
  })
  const policy = $derived(draft ?? query.data?.policy)

  const NUMBERS: [Setting, string, number][] = [
    ['barMean', 'Chance of passing, at least', 0.05],
    ['barLower', 'Lower end of its 90 % band, at least', 0.05],
    ['runLength', 'Clean coupons in a row', 1],
    ['leastFullCoupons', 'Full coupons under test rules', 1],
    ['withinDays', '...in the last days', 5],
    ['cleanAfterFailed', 'Clean coupons after a failed sitting', 1],
    ['sittingCost', 'Cost of a sitting', 50],
    ['retestWaitCost', 'Cost of the wait after a failed one', 10],
    ['couponCost', 'Cost of one more coupon', 5],
    ['cutCost', 'Cost of cutting one open', 5],
  ]
  const GATES: [Setting, string][] = [
    ['lastClean', 'The last full coupon is clean'],
    ['destructive', 'The latest that was cut open is sound'],
    ['noRepeatedFault', 'No fault in each of the last three'],
    ['fitUpUnaided', 'A fit-up passed unaided'],
    ['safetySignOff', 'Safety is signed off'],
  ]
  const set = (key: Setting, value: unknown) => (draft = { ...policy!, [key]: value } as Policy)

  async function save(event: SubmitEvent) {
    event.preventDefault()
    errors = {}
    try {
      await ask(
        api.PUT('/api/policies/{testId}', { params: { path: { testId: page.params.test! } }, body: policy! }),
      )
      draft = null
      notices.add('Policy saved. Every student is weighed by it from now on.')
      await changed(client, 'policy')
    } catch (error) {
      if (error instanceof Refused) errors = error.fields
      notices.add(error instanceof Error ? error.message : 'Not saved.', 'caution')
    }
  }
</script>

<svelte:head><title>Policy · Gradus</title></svelte:head>

{#if !query.data || !policy}
  <Waiting error={query.error} retry={() => query.refetch()} what="The policy" />
{:else}
  {@const view = query.data}
  <h1 class="pt-4 text-3xl">When is a student ready for {view.testId}?</h1>
  <p class="pb-3 text-(--soft)">
    {view.isOwn
      ? 'Your school has set this policy.'
      : 'These are the shipped defaults; change what your school does otherwise.'}
  </p>
  <form class="sheet grid max-w-4xl gap-3 p-4" novalidate onsubmit={save}>
    <LeadsOwn>
      <div class="flex flex-wrap gap-2" role="group" aria-label="Ready by">
        <button
          type="button"
          class="plate"
          aria-pressed={policy.school === 'probability'}
          onclick={() => set('school', 'probability')}>By the chance</button
        >
        <button
          type="button"
          class="plate"
          aria-pressed={policy.school === 'runOfClean'}
          onclick={() => set('school', 'runOfClean')}>By clean coupons in a row</button
        >
        <button
          type="button"
          class="plate"
          aria-pressed={policy.school === 'cost'}
          onclick={() => set('school', 'cost')}>By what it costs</button
        >
      </div>
      <p class="text-sm text-(--soft)">{view.reasons.school}</p>
      {#each NUMBERS as [key, label, step] (key)}
        <label class="grid gap-x-4 sm:grid-cols-[18rem_8rem_1fr] sm:items-center">
          <span class="font-semibold">{label}</span>
          <input
            class="field number w-32 text-xl"
            type="number"
            {step}
            min="0"
            value={policy[key]}
            onchange={(event) => set(key, Number(event.currentTarget.value))}
          />
          <span class="text-sm text-(--soft)"
            >{#if errors[key]}<strong class="text-(--caution)">{errors[key][0]}</strong>{:else}{view.reasons[
                key
              ]}
              Shipped: {view.defaults[key]}.{/if}</span
          >
        </label>
      {/each}
      <h2 class="eyebrow mt-2">Gates that must be met first</h2>
      {#each GATES as [key, label] (key)}
        <div class="grid gap-x-4 sm:grid-cols-[18rem_8rem_1fr] sm:items-center">
          <span class="font-semibold">{label}</span>
          <button
            type="button"
            class="plate w-32"
            aria-pressed={policy[key] === true}
            aria-label="{label}: {policy[key] ? 'asked for' : 'not asked for'}"
            onclick={() => set(key, !policy[key])}>{policy[key] ? 'asked for' : 'not asked'}</button
          >
          <span class="text-sm text-(--soft)">{view.reasons[key]}</span>
        </div>
      {/each}
      <div class="mt-2 flex gap-2">
        <button class="lead" disabled={!draft}>Save the policy</button>
        <button type="button" class="plate" onclick={() => (draft = { ...view.defaults })}
          >Shipped defaults</button
        >
      </div>
    </LeadsOwn>
  </form>
{/if}
