<script lang="ts">
  import type { Schema } from '$lib/api/client'

  type Props = { tests: Schema['TestRow'][]; chosen: string | null; onpick: (id: string) => void }
  let { tests, chosen, onpick }: Props = $props()

  const groups = $derived(
    [
      { name: 'Plate', rows: tests.filter((test) => test.product === 'plate') },
      { name: 'Sheet', rows: tests.filter((test) => test.product === 'sheet') },
      { name: 'Pipe', rows: tests.filter((test) => test.product === 'pipe') },
    ].filter((group) => group.rows.length > 0),
  )
  const title = $derived(tests.find((test) => test.id === chosen)?.title)
</script>

<div class="grid grid-cols-[auto_1fr] items-start gap-x-3 gap-y-1.5">
  {#each groups as group (group.name)}
    <span class="flex min-h-12 items-center text-sm text-(--soft)">{group.name}</span>
    <div class="flex flex-wrap gap-1.5">
      {#each group.rows as test (test.id)}
        <button
          type="button"
          class="plate number px-2 text-xl"
          aria-pressed={chosen === test.id}
          aria-label="{test.id}: {test.title}"
          onclick={() => onpick(test.id)}>{test.id}</button
        >
      {/each}
    </div>
  {/each}
</div>
<p class="mt-1 min-h-6 font-semibold" aria-live="polite">{title ?? ''}</p>
