<script lang="ts">
  import { shortDay, weekAfter } from '$lib/weeks'

  let { monday = $bindable(), title }: { monday: string; title: string } = $props()
</script>

<div class="flex items-center gap-2 print:hidden">
  <button class="plate" aria-label="The week before" onclick={() => (monday = weekAfter(monday, -1))}
    >←</button
  >
  <h1 class="text-2xl sm:whitespace-nowrap">{title} {shortDay(monday)}</h1>
  <button class="plate" aria-label="The week after" onclick={() => (monday = weekAfter(monday, 1))}>→</button>
</div>
