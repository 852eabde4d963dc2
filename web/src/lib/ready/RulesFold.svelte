<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { changed } from '$lib/changed'
  import { notices } from '$lib/notices.svelte'
  import Mark from '$lib/ui/Mark.svelte'

  let { grounds }: { grounds: Schema['Grounds'] } = $props()
  const client = useQueryClient()

  async function safety(signed: boolean) {
    const path = { studentId: grounds.studentId }
    await notices.attempt(async () => {
      await ask(
        signed
          ? api.PUT('/api/students/{studentId}/safety', { params: { path } })
          : api.DELETE('/api/students/{studentId}/safety', { params: { path } }),
      )
      notices.add(signed ? 'Safety signed off.' : 'Safety sign-off taken back.', 'done', () =>
        safety(!signed),
      )
      await changed(client, 'decision')
    })
  }
</script>

<ul>
  {#each grounds.advice.gates as gate (gate.id)}
    <li class="flex items-start gap-3 border-t py-2 first:border-t-0">
      <span class="pt-0.5"><Mark of={gate.met ? 'clean' : 'out'} label={gate.met ? 'Met' : 'Not met'} /></span
      >
      <span class="min-w-0"
        >{gate.asks}{#if !gate.met}<strong class="block">{gate.lifts}</strong>{/if}</span
      >
      {#if gate.id === 'safetySignOff'}
        <button class="plate ml-auto shrink-0" onclick={() => safety(!gate.met)}
          >{gate.met ? 'Take back' : 'Sign off safety'}</button
        >
      {/if}
    </li>
  {/each}
</ul>
<a class="bare mt-1" href="/ready/policy/{grounds.test.id}">Change the rules for {grounds.test.id}</a>
