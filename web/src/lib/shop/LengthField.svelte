<script lang="ts">
  import { untrack } from 'svelte'
  import { api, ask, Refused } from '$lib/api/client'
  import { inchParts, units, type Unit } from '$lib/units.svelte'

  let { label, mm = $bindable() }: { label: string; mm: number } = $props()

  const PAUSE_MS = 250
  let typed = $state<string | null>(null)
  let wrong = $state<string | null>(null)
  let timer: ReturnType<typeof setTimeout> | undefined

  const MM_PER_INCH = 25.4
  const FINEST = 64

  /** As the shop writes it: a fraction where it is one, else decimals (wire is 0.045, not 3/64). */
  const shown = (value: number, unit: Unit) => {
    if (unit === 'mm') return String(Number(value.toFixed(3)))
    const parts = (value / MM_PER_INCH) * FINEST
    if (Math.abs(parts - Math.round(parts)) > 1e-6) return String(Number((value / MM_PER_INCH).toFixed(4)))
    const { whole, top, bottom } = inchParts(value)
    return top === 0 ? `${whole}` : `${whole > 0 ? `${whole} ` : ''}${top}/${bottom}`
  }

  $effect(() => {
    // Another unit, or a value set from outside: what was typed no longer says it.
    void units.unit
    void mm
    untrack(() => {
      if (document.activeElement !== input) typed = null
    })
  })
  let input: HTMLInputElement

  function oninput() {
    typed = input.value
    clearTimeout(timer)
    timer = setTimeout(read, PAUSE_MS)
  }

  async function read() {
    try {
      const answer = await ask(
        api.POST('/api/calc/length', { body: { text: typed ?? '', assume: units.unit } }),
      )
      mm = answer.mm
      wrong = null
    } catch (error) {
      wrong = error instanceof Refused ? error.message : 'The server cannot be reached.'
    }
  }
</script>

<label class="block">
  <span class="eyebrow block">{label}</span>
  <span class="flex items-center gap-1">
    <input
      bind:this={input}
      class="number h-12 w-full min-w-0 border-[1.5px] bg-(--page) px-2 text-xl {wrong
        ? 'border-(--caution)'
        : 'border-(--steel-edge)'}"
      value={typed ?? shown(mm, units.unit)}
      {oninput}
      onblur={() => {
        if (!wrong) typed = null
      }}
      aria-invalid={wrong !== null}
      autocomplete="off"
      spellcheck="false"
    />
    <span class="number text-(--soft)" aria-hidden="true">{units.unit}</span>
  </span>
  {#if wrong}<span class="block text-sm text-(--caution)" role="alert">{wrong}</span>{/if}
</label>
