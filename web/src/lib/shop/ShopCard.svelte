<script lang="ts">
  import type { Snippet } from 'svelte'
  import type { Schema } from '$lib/api/client'
  import { Refused } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import { cardLink, type Value } from './link'

  type Props = {
    id: string
    formulas: Schema['Formula'][]
    values: Record<string, Value>
    error: unknown
    wide?: boolean
    /** Classes that keep the place of what is worked out, so that nothing moves when it comes. */
    room?: string
    fields: Snippet
    drawing?: Snippet
    result: Snippet
  }
  let { id, formulas, values, error, wide = false, room = '', fields, drawing, result }: Props = $props()
  let how = $state(false)
  const formula = $derived(formulas.find((one) => one.id === id))
  const problems = $derived(
    error instanceof Refused
      ? [...new Set(Object.values(error.fields).flat())]
      : error
        ? ['The server cannot be reached. The numbers below are the last ones.']
        : [],
  )

  async function copyLink() {
    const link = cardLink(id, values)
    try {
      await navigator.clipboard.writeText(link)
      notices.add('The link to these numbers is on the clipboard.')
    } catch {
      // Without a secure origin there is no clipboard: the address bar will do.
      history.replaceState(history.state, '', link)
      notices.add('The link to these numbers is in the address bar.')
    }
  }

  function printAlone(event: MouseEvent) {
    const card = (event.currentTarget as HTMLElement).closest('.shop-card')!
    document.body.classList.add('print-one')
    card.classList.add('print-this')
    window.print()
    card.classList.remove('print-this')
    document.body.classList.remove('print-one')
  }
</script>

<section
  class="shop-card sheet flex min-w-0 flex-col gap-3 p-4 {wide ? 'lg:col-span-2' : ''}"
  id="card-{id}"
  aria-labelledby="title-{id}"
>
  <div class="flex items-center gap-2">
    <h2 class="grow text-xl" id="title-{id}">{formula?.title ?? ''}</h2>
    <button class="plate px-2 print:hidden" aria-expanded={how} onclick={() => (how = !how)}>How</button>
    <button class="plate px-2 print:hidden" onclick={copyLink}>Link</button>
    <button class="plate px-2 print:hidden" onclick={printAlone}>Print</button>
  </div>
  {#if formula}
    <p class="border-l-4 border-(--straw) pl-3 text-sm {how ? '' : 'hidden print:block'}">
      {formula.text}
      <span class="block text-(--soft)"
        >{formula.source}{formula.fromMemory ? '; check against your edition' : ''}</span
      >
    </p>
  {/if}
  <div class="grid grid-cols-[repeat(auto-fit,minmax(9rem,1fr))] gap-3">{@render fields()}</div>
  {#each problems as problem (problem)}
    <p class="text-(--caution)" role="alert">{problem}</p>
  {/each}
  <div class="flex grow flex-wrap items-start gap-4 {room}">
    {#if drawing}<div class="min-w-40 grow basis-52">{@render drawing()}</div>{/if}
    <div class="result min-w-48 grow basis-48" aria-live="polite">{@render result()}</div>
  </div>
</section>
