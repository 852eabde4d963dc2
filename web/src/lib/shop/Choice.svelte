<script lang="ts" generics="T extends string">
  type Props = { label: string; options: { id: T; name: string }[]; value: T }
  let { label, options, value = $bindable() }: Props = $props()
</script>

<fieldset>
  <legend class="eyebrow">{label}</legend>
  <div class="flex flex-wrap gap-1">
    {#each options as option (option.id)}
      <button
        type="button"
        class="plate px-2"
        aria-pressed={value === option.id}
        onclick={() => (value = option.id)}>{option.name}</button
      >
    {/each}
  </div>
</fieldset>
