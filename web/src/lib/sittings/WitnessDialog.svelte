<script lang="ts">
  import { api, ask, newId, Refused, type Schema } from '$lib/api/client'
  import PinField from '$lib/parts/PinField.svelte'
  import { peopleQuery } from '$lib/queries'
  import Dialog from '$lib/ui/Dialog.svelte'
  import SignaturePad from './SignaturePad.svelte'

  type Props = {
    sitting: Schema['SittingView']
    /** The point that is witnessed; null while none is. */
    point: Schema['PointView'] | null
    ondone: () => void
  }
  let { sitting, point = $bindable(), ondone }: Props = $props()
  const people = peopleQuery()
  const here = $derived((people.data?.people ?? []).filter((one) => !one.leftAt && one.role !== 'student'))
  const byName = $derived(!sitting.inspectorId && !!sitting.row.inspector)
  let signs = $state<boolean | null>(null)
  let who = $state<string | null>(null)
  let name = $state<string | null>(null)
  let pin = $state('')
  let path = $state('')
  let text = $state('')
  let error = $state('')
  let busy = $state(false)
  const isSigning = $derived(signs ?? byName)
  const witnessId = $derived(who ?? sitting.inspectorId ?? here[0]?.id ?? '')
  $effect.pre(() => {
    void point
    pin = path = text = error = ''
  })

  async function witness(event: SubmitEvent) {
    event.preventDefault()
    if (busy || !point) return
    busy = true
    error = ''
    const body: Schema['MarkPoint'] = isSigning
      ? {
          check: point.id,
          text,
          witnessId: null,
          witnessName: (name ?? sitting.row.inspector ?? '').trim() || null,
          signature: path || null,
        }
      : { check: point.id, text, witnessId, witnessName: null, signature: null }
    try {
      await ask(
        api.PUT('/api/sittings/{id}/marks/{markId}', {
          params: {
            path: { id: sitting.row.id, markId: newId() },
            header: isSigning ? {} : { 'Gradus-Pin': pin },
          },
          body,
        }),
      )
      point = null
      ondone()
    } catch (problem) {
      error = problem instanceof Refused || problem instanceof Error ? problem.message : String(problem)
    } finally {
      busy = false
      pin = ''
    }
  }
</script>

<Dialog
  bind:open={
    () => point !== null,
    (value) => {
      if (!value) point = null
    }
  }
  title={point ? `Witnessed: ${point.title.toLowerCase()}` : ''}
>
  <form onsubmit={witness}>
    <div class="mb-3 grid grid-cols-2 gap-2">
      <button type="button" class="plate" aria-pressed={!isSigning} onclick={() => (signs = false)}
        >By PIN</button
      >
      <button type="button" class="plate" aria-pressed={isSigning} onclick={() => (signs = true)}
        >Signs on the tablet</button
      >
    </div>
    {#if point?.asks}
      <label class="mb-2 block"
        ><span class="eyebrow block">{point.asks}</span><input
          class="field w-full"
          maxlength="200"
          required
          bind:value={text}
        /></label
      >
    {/if}
    {#if isSigning}
      <label class="mb-2 block"
        ><span class="eyebrow block">Name of the witness</span><input
          class="field w-full"
          maxlength="100"
          required
          value={name ?? (byName ? sitting.row.inspector : '')}
          oninput={(event) => (name = event.currentTarget.value)}
        /></label
      >
      <SignaturePad bind:path />
      <p class="min-h-6 font-semibold text-(--caution)" role="alert">{error}</p>
    {:else}
      <label class="mb-2 block"
        ><span class="eyebrow block">Who witnesses</span><select
          class="field w-full"
          value={witnessId}
          onchange={(event) => (who = event.currentTarget.value)}
        >
          {#each here as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
        </select></label
      >
      <PinField bind:pin label="Their PIN" {error} autofocus />
    {/if}
    <button class="lead w-full" disabled={busy || (isSigning ? !path : pin === '')}>Witnessed</button>
  </form>
</Dialog>
