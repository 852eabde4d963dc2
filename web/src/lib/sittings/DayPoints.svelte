<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { changed } from '$lib/changed'
  import { timeOf } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import { session } from '$lib/session.svelte'
  import Mark from '$lib/ui/Mark.svelte'
  import WitnessDialog from './WitnessDialog.svelte'

  let { sitting, closed }: { sitting: Schema['SittingView']; closed: boolean } = $props()
  const client = useQueryClient()
  let witnessed = $state<Schema['PointView'] | null>(null)
  let typed = $state<Record<string, string>>({})
  const next = $derived(sitting.points.find((point) => !point.markId)?.id)

  async function mark(point: Schema['PointView']) {
    const path = { id: sitting.row.id, markId: newId() }
    const body = {
      check: point.id,
      text: point.asks ? (typed[point.id] ?? '') : '',
      witnessId: null,
      witnessName: null,
      signature: null,
    }
    const done = await notices.attempt(() =>
      ask(api.PUT('/api/sittings/{id}/marks/{markId}', { params: { path }, body })),
    )
    if (done) await changed(client, 'sitting')
  }
  async function takeBack(point: Schema['PointView']) {
    const path = { id: sitting.row.id, markId: point.markId! }
    const done = await notices.attempt(() =>
      ask(api.DELETE('/api/sittings/{id}/marks/{markId}', { params: { path } })),
    )
    if (done) await changed(client, 'sitting')
  }
</script>

<ol>
  {#each sitting.points as point (point.id)}
    <li class="grid min-h-14 grid-cols-[1.8rem_1fr_auto] items-center gap-x-3 border-t py-1 first:border-t-0">
      <Mark
        of={point.markId ? 'done' : point.id === next && !closed ? 'next' : 'open'}
        label={point.markId ? 'done' : 'to do'}
      />
      <div class="min-w-0 leading-tight">
        <b>{point.title}</b>
        {#if point.markId}
          <span class="block text-sm text-(--soft)"
            >{point.text ? `${point.text}. ` : ''}{point.witness
              ? `Seen by ${point.witness}, `
              : `${point.by}, `}{timeOf(point.at!, session.timeZone)}</span
          >
        {:else if point.asks && !point.witnessed && !closed}
          <form
            id="point-{point.id}"
            onsubmit={(event) => {
              event.preventDefault()
              void mark(point)
            }}
          >
            <input
              class="field mt-0.5 w-full"
              maxlength="200"
              required
              aria-label="{point.title}: {point.asks}"
              placeholder={point.asks}
              bind:value={typed[point.id]}
            />
          </form>
        {/if}
      </div>
      {#if closed}<span></span>
      {:else if point.markId}<button
          class="bare text-sm"
          aria-label="Take back: {point.title}"
          onclick={() => takeBack(point)}>Take back</button
        >
      {:else if point.witnessed}<button
          class="plate"
          aria-label="Witness: {point.title}"
          onclick={() => (witnessed = point)}>Witness</button
        >
      {:else if point.asks}<button class="plate" form="point-{point.id}" aria-label="Done: {point.title}"
          >Done</button
        >
      {:else}<button class="plate" aria-label="Done: {point.title}" onclick={() => mark(point)}>Done</button
        >{/if}
    </li>
  {/each}
</ol>
<WitnessDialog {sitting} bind:point={witnessed} ondone={() => void changed(client, 'sitting')} />
