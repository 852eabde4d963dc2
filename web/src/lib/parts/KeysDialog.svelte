<script lang="ts">
  import Dialog from '$lib/ui/Dialog.svelte'

  let { open = $bindable() }: { open: boolean } = $props()
  const KEYS = [
    ['/ or Ctrl K', 'Find a student, a coupon by its stamp, a test by its words'],
    ['g then f', 'Go to the floor'],
    ['g then p', 'Go to the plan of the week'],
    ['g then t', 'Go to the library of tests'],
    ['g then m', 'Go to shop math'],
    ['u', 'Switch between inches with °F and millimetres with °C'],
    ['Tab, then Enter', 'Reach and tap a bead, a dimension or a place in a drawing'],
    ['l', 'On the bench: log the next bead clean'],
    ['Esc', 'Put a dialog away'],
    ['?', 'This list'],
  ]
</script>

<Dialog bind:open title="Keyboard" size="sm">
  <dl class="grid grid-cols-[9rem_1fr] gap-y-2">
    {#each KEYS as [key, what] (key)}
      <dt><kbd class="number border border-(--steel-edge) px-2 py-0.5">{key}</kbd></dt>
      <dd>{what}</dd>
    {/each}
  </dl>
</Dialog>
