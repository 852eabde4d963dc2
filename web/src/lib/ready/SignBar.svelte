<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { changed } from '$lib/changed'
  import { notices } from '$lib/notices.svelte'
  import { signing } from '$lib/signing.svelte'
  import { session } from '$lib/session.svelte'
  import { decisionName } from '$lib/words'

  /** Quiet: something else is the one act of the screen. */
  let { grounds, quiet = false }: { grounds: Schema['Grounds']; quiet?: boolean } = $props()
  type Kind = Schema['DecisionKind']
  const client = useQueryClient()
  const CHOICES: Kind[] = ['testNow', 'practise', 'hold']
  const advised = $derived<Kind>(
    grounds.advice.kind === 'testNow' ? 'testNow' : grounds.advice.kind === 'hold' ? 'hold' : 'practise',
  )
  let chosen = $state<Kind | null>(null)
  const kind = $derived(chosen ?? advised)
  const differs = $derived(kind !== advised)
  let reason = $state('')
  let error = $state('')
  let busy = $state(false)
  let id = newId()
  const VERBS: Record<Kind, string> = { testNow: 'test now', practise: 'practise first', hold: 'hold' }

  async function sign(event: SubmitEvent) {
    event.preventDefault()
    error = differs && reason.trim() === '' ? 'Say why you decide otherwise than advised.' : ''
    if (error || busy) return
    busy = true
    const body = { studentId: grounds.studentId, testId: grounds.test.id, kind, reason }
    const signed = await signing.attempt(
      `${grounds.studentName}, ${grounds.test.id}: ${VERBS[kind]}.`,
      (header) => ask(api.PUT('/api/decisions/{id}', { params: { path: { id }, header }, body })),
    )
    busy = false
    if (!signed) return
    notices.add(`Signed: ${decisionName(kind).toLowerCase()}.`)
    id = newId()
    chosen = null
    reason = ''
    await changed(client, 'decision')
  }

  function step(event: KeyboardEvent) {
    const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key]
    if (!by) return
    event.preventDefault()
    chosen = CHOICES[(CHOICES.indexOf(kind) + by + CHOICES.length) % CHOICES.length]!
    const group = event.currentTarget as HTMLElement
    requestAnimationFrame(() => group.querySelector<HTMLElement>('[aria-checked="true"]')?.focus())
  }
</script>

<form
  class="sheet grid items-end gap-x-4 gap-y-3 px-4 py-3 xl:grid-cols-[auto_minmax(12rem,1fr)_auto]"
  novalidate
  onsubmit={sign}
>
  <div>
    <span class="eyebrow mb-1 block" id="your-decision">Your decision</span>
    <div
      class="flex flex-wrap gap-2"
      role="radiogroup"
      tabindex="-1"
      aria-labelledby="your-decision"
      onkeydown={step}
    >
      {#each CHOICES as choice (choice)}
        <button
          type="button"
          role="radio"
          class="plate min-h-[52px] px-5"
          aria-checked={kind === choice}
          tabindex={kind === choice ? 0 : -1}
          onclick={() => (chosen = choice)}
          >{choice === 'practise' ? 'Practise first' : decisionName(choice)}</button
        >
      {/each}
    </div>
  </div>
  <label class="block">
    <span class="eyebrow mb-1 block"
      >{differs ? 'Reason: you decide otherwise than advised' : 'Reason, needed only if you differ'}</span
    >
    <textarea
      class="field block h-[52px] min-h-[52px] w-full"
      maxlength="1000"
      placeholder={differs ? '' : 'As advised'}
      aria-required={differs}
      aria-invalid={error !== ''}
      aria-describedby={error ? 'sign-error' : undefined}
      oninput={() => (error = '')}
      bind:value={reason}></textarea>
  </label>
  <button class={quiet ? 'plate min-h-[52px]' : 'lead'} disabled={busy}>Sign: {VERBS[kind]}</button>
  {#if error}<p id="sign-error" class="font-semibold text-(--caution) xl:col-span-3" role="alert">
      {error}
    </p>{/if}
  <p class="text-sm text-(--soft) xl:col-span-3">
    You sign as {session.view?.person?.name}, with your PIN. You decide; local codes, the governing edition
    and a qualified inspector decide at the sitting.
  </p>
</form>
