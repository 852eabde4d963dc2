<script lang="ts">
  import { api, ask } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import { chips, lengthText, units } from '$lib/units.svelte'
  import Len from './Len.svelte'

  type Props = {
    label: string
    /** Chosen length in mm. */
    value: number | null | undefined
    sixtyFourths: number[]
    tenths: number[]
    onpick: (mm: number | null) => void
  }
  let { label, value, sixtyFourths, tenths, onpick }: Props = $props()
  let typed = $state('')
  const sizes = $derived(chips(sixtyFourths, tenths))
  const same = (mm: number) => value != null && Math.abs(mm - value) < 0.01

  async function read() {
    if (typed.trim() === '') return
    await notices.attempt(async () => {
      const { mm } = await ask(api.POST('/api/calc/length', { body: { text: typed, assume: units.unit } }))
      onpick(mm)
      typed = ''
    })
  }
</script>

<fieldset>
  <legend class="eyebrow mb-1"
    >{label}{#if value != null}: <Len mm={value} />{/if}</legend
  >
  <div class="flex flex-wrap gap-1.5">
    {#each sizes as mm (mm)}
      <button
        type="button"
        class="plate px-2 text-xl"
        aria-pressed={same(mm)}
        aria-label="{label} {lengthText(mm)}"
        onclick={() => onpick(same(mm) ? null : mm)}
      >
        <Len {mm} label={false} />
      </button>
    {/each}
    <input
      class="number h-12 w-24 border-[1.5px] border-(--steel-edge) bg-(--sheet) px-2 text-lg placeholder-(--soft)"
      placeholder="or type"
      aria-label="{label}, typed in {units.unit === 'in' ? 'inches' : 'millimetres'}"
      bind:value={typed}
      onchange={read}
    />
  </div>
</fieldset>
