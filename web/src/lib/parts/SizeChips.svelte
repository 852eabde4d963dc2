<script lang="ts">
  import { chips, lengthText } from '$lib/units.svelte'
  import Len from './Len.svelte'
  import TypedLength from './TypedLength.svelte'

  type Props = {
    label: string
    /** Chosen length in mm. */
    value: number | null | undefined
    sixtyFourths: number[]
    tenths: number[]
    onpick: (mm: number | null) => void
  }
  let { label, value, sixtyFourths, tenths, onpick }: Props = $props()
  const sizes = $derived(chips(sixtyFourths, tenths))
  const same = (mm: number) => value != null && Math.abs(mm - value) < 0.01
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
    <TypedLength {label} onread={onpick} />
  </div>
</fieldset>
