<script lang="ts">
  type Props = {
    pin: string
    label: string
    error?: string
    autofocus?: boolean
    /** A PIN that is being chosen. */
    fresh?: boolean
  }
  let { pin = $bindable(), label, error = '', autofocus = false, fresh = false }: Props = $props()
  const id = $props.id()
  function focus(field: HTMLInputElement) {
    if (autofocus) requestAnimationFrame(() => field.focus())
  }
</script>

<label class="block">
  <span class="eyebrow">{label}</span>
  <input
    type="password"
    inputmode="numeric"
    maxlength="12"
    autocomplete={fresh ? 'new-password' : 'current-password'}
    class="field number mt-1 block h-14 w-full text-2xl tracking-[0.3em]"
    bind:value={pin}
    required
    aria-invalid={error !== ''}
    aria-describedby="{id}-error"
    use:focus
  />
</label>
<p id="{id}-error" class="mt-2 min-h-6 font-semibold text-(--caution)" role="alert">{error}</p>
