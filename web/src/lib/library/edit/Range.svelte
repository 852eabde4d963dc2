<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import NumberField from '$lib/shop/NumberField.svelte'
  import type { Quantity } from '$lib/units.svelte'

  type Props = { label: string; unit?: string; of?: Quantity; span: Schema['Span'] }
  let { label, unit = '', of, span }: Props = $props()
</script>

<div class="grid grid-cols-2 gap-2">
  <NumberField label="{label}, from" {unit} {of} bind:value={span.min} />
  <NumberField label="to" {unit} {of} bind:value={span.max} />
</div>
