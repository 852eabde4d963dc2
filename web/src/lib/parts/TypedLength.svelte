<script lang="ts">
  import { api, ask } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import { units } from '$lib/units.svelte'

  /** A size that no chip has, as the shop writes it. */
  let { label, onread }: { label: string; onread: (mm: number) => void } = $props()
  let typed = $state('')

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
  class="number h-12 w-24 border-[1.5px] border-(--steel-edge) bg-(--sheet) px-2 text-lg placeholder-(--soft)"
  placeholder="or type"
  aria-label="{label}, typed in {units.unit === 'in' ? 'inches' : 'millimetres'}"
  bind:value={typed}
  onchange={read}
/>
