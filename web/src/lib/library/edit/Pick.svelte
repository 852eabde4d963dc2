<script lang="ts" generics="T extends string">
  type Props = { label: string; options: [T, string][]; value: T; onpick?: (value: T) => void }
  let { label, options, value = $bindable(), onpick }: Props = $props()
</script>

<label class="min-w-0">
  <span class="eyebrow block">{label}</span>
  <select
    class="field w-full"
    {value}
    onchange={(event) => {
      value = event.currentTarget.value as T
      onpick?.(value)
    }}
  >
    {#each options as [id, name] (id)}<option value={id}>{name}</option>{/each}
  </select>
</label>
