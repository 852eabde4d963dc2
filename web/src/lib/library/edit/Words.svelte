<script lang="ts">
  type Props = { label: string; value: string; most?: number; narrow?: boolean }
  let { label, value = $bindable(), most = 200, narrow = false }: Props = $props()
</script>

<label class="min-w-0 {narrow ? '' : 'col-span-full'}">
  <span class="eyebrow block">{label}</span>
  <input class="field w-full" maxlength={most} autocomplete="off" bind:value />
</label>
