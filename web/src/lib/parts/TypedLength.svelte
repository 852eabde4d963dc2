<script lang="ts">
  import { api, ask } from '$lib/api/client'
  import { takers } from '$lib/keyed'
  import { notices } from '$lib/notices.svelte'
  import { units } from '$lib/units.svelte'

  /** A size that no chip has, as the shop writes it. */
  let { label, onread }: { label: string; onread: (mm: number) => void } = $props()
  let typed = $state('')
  let field = $state<HTMLInputElement | null>(null)

  // A weld gauge types into the field that waits for it.
  $effect(() => {
    if (!field) return
    return takers.add({
      field,
      label,
      take: (text) => {
        typed = text
        void read()
      },
    })
  })

  async function read() {
    if (typed.trim() === '') return
    await notices.attempt(async () => {
      const { mm } = await ask(api.POST('/api/calc/length', { body: { text: typed, assume: units.unit } }))
      onread(mm)
      typed = ''
    })
  }
</script>

<input
  class="field number w-24 text-lg"
  placeholder="or type"
  aria-label="{label}, typed in {units.unit === 'in' ? 'inches' : 'millimetres'}"
  bind:this={field}
  bind:value={typed}
  onchange={read}
/>
