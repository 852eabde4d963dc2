<script lang="ts">
  import { digits, units, type Quantity } from '$lib/units.svelte'

  type Props = {
    label: string
    unit?: string
    /** A quantity that is shown in the pair of units that was chosen; the value is the kept one. */
    of?: Quantity
    value: number
  }
  let { label, unit = '', of, value = $bindable() }: Props = $props()
  const per = $derived(of?.[units.unit].per ?? 1)
  const said = $derived(of?.[units.unit].unit ?? unit)
  let typed = $state<string | null>(null)
  const wrong = $derived(typed !== null && read(typed) === null)

  // A comma is a decimal point on half of the keyboards.
  function read(text: string): number | null {
    const number = Number(text.trim().replace(',', '.'))
    return text.trim() !== '' && Number.isFinite(number) ? number : null
  }

  function oninput(event: Event) {
    typed = (event.currentTarget as HTMLInputElement).value
    const number = read(typed)
    if (number !== null) value = number * per
  }
</script>

<label class="block">
  <span class="eyebrow block">{label}</span>
  <span class="flex items-center gap-1">
    <input
      class="field number w-full text-xl"
      inputmode="decimal"
      value={typed ?? (of ? digits(value / per).replaceAll(',', '') : String(value))}
      {oninput}
      onblur={() => {
        if (!wrong) typed = null
      }}
      aria-invalid={wrong}
      autocomplete="off"
    />
    {#if said}<span class="number whitespace-nowrap text-(--soft)">{said}</span>{/if}
  </span>
  {#if wrong}<span class="block text-sm text-(--caution)" role="alert">Give a number.</span>{/if}
</label>
