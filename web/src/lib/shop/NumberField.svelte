<script lang="ts">
  type Props = { label: string; unit?: string; value: number }
  let { label, unit = '', value = $bindable() }: Props = $props()
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
    if (number !== null) value = number
  }
</script>

<label class="block">
  <span class="eyebrow block">{label}</span>
  <span class="flex items-center gap-1">
    <input
      class="number h-12 w-full min-w-0 border-[1.5px] bg-(--page) px-2 text-xl {wrong
        ? 'border-(--caution)'
        : 'border-(--steel-edge)'}"
      inputmode="decimal"
      value={typed ?? String(value)}
      {oninput}
      onblur={() => {
        if (!wrong) typed = null
      }}
      aria-invalid={wrong}
      autocomplete="off"
    />
    {#if unit}<span class="number whitespace-nowrap text-(--soft)">{unit}</span>{/if}
  </span>
  {#if wrong}<span class="block text-sm text-(--caution)" role="alert">Give a number.</span>{/if}
</label>
