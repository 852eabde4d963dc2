<script lang="ts">
  import { untrack } from 'svelte'
  import { api, ask, Refused } from '$lib/api/client'
  import { exactText, units } from '$lib/units.svelte'
  import { reading } from './reading'

  let { label, mm = $bindable() }: { label: string; mm: number } = $props()

  const PAUSE_MS = 250
  let input: HTMLInputElement
  let typed = $state<string | null>(null)
  let wrong = $state<string | null>(null)
  let reader: (() => void) | undefined

  $effect(() => {
    // Another unit, or a value set from outside: what was typed no longer says it.
    void units.unit
    void mm
    untrack(() => {
      if (document.activeElement !== input && !wrong) typed = null
    })
  })

  function oninput() {
    const text = input.value
    typed = text
    reader?.() // what was typed before is not read any more
    const due = new Promise<boolean>((done) => {
      const timer = setTimeout(() => done(true), PAUSE_MS)
      reader = () => {
        clearTimeout(timer)
        done(false)
      }
    })
    reading.add(due.then((still) => (still ? read(text) : undefined)))
  }

  async function read(text: string) {
    try {
      const answer = await ask(api.POST('/api/calc/length', { body: { text, assume: units.unit } }))
      if (typed !== text) return // typed on meanwhile
      mm = answer.mm
      wrong = null
      if (document.activeElement !== input) typed = null
    } catch (error) {
      if (typed === text) wrong = error instanceof Refused ? error.message : 'The server cannot be reached.'
    }
  }
</script>

<label class="block">
  <span class="eyebrow block">{label}</span>
  <span class="flex items-center gap-1">
    <input
      bind:this={input}
      class="field number w-full text-xl"
      value={typed ?? exactText(mm)}
      {oninput}
      aria-invalid={wrong !== null}
      autocomplete="off"
      spellcheck="false"
    />
    <span class="number text-(--soft)" aria-hidden="true">{units.unit}</span>
  </span>
  {#if wrong}<span class="block text-sm text-(--caution)" role="alert">{wrong}</span>{/if}
</label>
