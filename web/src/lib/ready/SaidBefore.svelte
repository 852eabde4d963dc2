<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { changed } from '$lib/changed'
  import { moment } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import { signing } from '$lib/signing.svelte'
  import { session } from '$lib/session.svelte'
  import { shortDay } from '$lib/weeks'
  import { decisionName, percent } from '$lib/words'

  let { decisions, withTest = false }: { decisions: Schema['DecisionView'][]; withTest?: boolean } = $props()
  const client = useQueryClient()
  let taking = $state<string | null>(null)
  let reason = $state('')
  let error = $state('')

  async function withdraw(event: SubmitEvent, id: string) {
    event.preventDefault()
    error = reason.trim() === '' ? 'Say why it is taken back.' : ''
    if (error) return
    const signed = await signing.attempt('A decision is taken back.', (header) =>
      ask(api.PUT('/api/decisions/{id}/withdrawal', { params: { path: { id }, header }, body: { reason } })),
    )
    if (!signed) return
    taking = null
    reason = ''
    notices.add('Taken back. It stays in the history.')
    await changed(client, 'decision')
  }
</script>

{#each decisions as decision (decision.id)}
  <article class="border-t py-2 first:border-t-0">
    <p class:line-through={decision.withdrawn}>
      {#if withTest}<span class="number">{decision.testId}</span>{/if}
      <strong>{decisionName(decision.kind)}</strong> at {decision.whole.tooLittleToTell
        ? 'too little to tell'
        : percent(decision.whole.mean)}{decision.adviceSaid ? `; advised: ${decision.adviceSaid}` : ''}
    </p>
    <p class="break-words">{decision.reason || 'As advised.'}</p>
    {#if decision.since.sat}
      <p class="font-semibold">
        Sat on {shortDay(decision.since.sat.day)}: {decision.since.sat.passed ? 'passed' : 'not passed'}.
      </p>
    {/if}
    {#if decision.since.coupons > 0}
      <p class="text-sm">
        Since then {decision.since.clean} of {decision.since.coupons} whole {decision.since.coupons === 1
          ? 'coupon'
          : 'coupons'} clean.
      </p>
    {/if}
    <p class="text-sm text-(--soft)">
      Signed {decision.signedBy}, {moment(decision.signedAt, session.timeZone)}
    </p>
    {#if decision.withdrawn}
      <p class="text-sm font-semibold">
        Taken back by {decision.withdrawn.by}, {moment(decision.withdrawn.at, session.timeZone)}: {decision
          .withdrawn.reason}
      </p>
    {:else if taking === decision.id}
      <form
        class="mt-1 flex flex-wrap items-end gap-2"
        novalidate
        onsubmit={(event) => withdraw(event, decision.id)}
      >
        <label class="min-w-48 flex-1"
          ><span class="eyebrow block">Why it is taken back</span><input
            class="field w-full"
            maxlength="1000"
            bind:value={reason}
          /></label
        >
        <button class="plate">Take back</button>
        <button type="button" class="bare" onclick={() => (taking = null)}>Leave it</button>
        {#if error}<p class="w-full font-semibold text-(--caution)" role="alert">{error}</p>{/if}
      </form>
    {:else}
      <button
        class="bare"
        onclick={() => {
          taking = decision.id
          reason = error = ''
        }}>Take back</button
      >
    {/if}
  </article>
{:else}
  <p class="py-2 text-(--soft)">Nothing signed yet.</p>
{/each}
