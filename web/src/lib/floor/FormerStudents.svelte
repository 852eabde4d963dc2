<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask } from '$lib/api/client'
  import { dayOf } from '$lib/days'
  import Fold from '$lib/ui/Fold.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { session } from '$lib/session.svelte'

  let open = $state(false)
  const former = createQuery(() => ({
    queryKey: ['former'],
    queryFn: () => ask(api.GET('/api/students/left')),
    enabled: open,
  }))
</script>

<Fold name="Those who left" bind:open>
  {#if former.data}
    <ul class="grid gap-x-6 sm:grid-cols-2 lg:grid-cols-3">
      {#each former.data as student (student.id)}
        <li class="border-t">
          <a class="block py-2.5 break-words" href="/students/{student.id}"
            ><span class="font-semibold underline decoration-(--line) underline-offset-4">{student.name}</span
            >
            <span class="text-(--soft)"
              >{student.className}, left {dayOf(student.leftAt, session.timeZone)}</span
            ></a
          >
        </li>
      {:else}
        <li class="py-2 text-(--soft)">Nobody has left.</li>
      {/each}
    </ul>
  {:else if open}
    <Waiting error={former.error} retry={() => former.refetch()} what="Those who left" />
  {/if}
</Fold>
