<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { moment } from '$lib/days'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { session } from '$lib/session.svelte'
  import Fold from '$lib/ui/Fold.svelte'
  import { processName, stageName } from '$lib/words'
  import { clockText, comparedRows } from './arc-words'

  let { studentId }: { studentId: string } = $props()
  const query = createQuery(() => ({
    queryKey: ['student', studentId, 'arcs'],
    queryFn: () => ask(api.GET('/api/students/{studentId}/arcs', { params: { path: { studentId } } })),
  }))
  const beads = $derived(query.data?.beads ?? [])
  // Of a bead by hand the arc and its beat, of a wire its tip and feed.
  const TOLD = ['Long arc', 'Beat', 'Tip', 'Feed varies', 'Off the card']
  const saysOf = (arc: Schema['BeadArc']) =>
    comparedRows(arc, null)
      .filter((row) => TOLD.includes(row.name))
      .map((row) => `${row.name.toLowerCase()} ${row.now}`)
      .join(', ')
  const value = $derived(
    query.data
      ? beads.length
        ? `${beads.length} ${beads.length === 1 ? 'bead' : 'beads'}`
        : 'none measured'
      : '',
  )
</script>

<Fold name="What the arc says" {value}>
  {#if !query.data}
    <Waiting error={query.error} retry={() => query.refetch()} what="The arcs" />
  {:else if beads.length === 0}
    <p class="py-2 text-(--soft)">No arc logger has measured a bead yet.</p>
  {:else}
    <div class="overflow-x-auto" role="region" aria-label="Beads with their arc" tabindex="-1">
      <table class="ledger w-full">
        <thead>
          <tr
            ><th class="text-left">Bead</th><th class="text-right">Arc</th><th class="text-left"
              >What it says</th
            ></tr
          >
        </thead>
        <tbody>
          {#each beads as one (one.passId)}
            <tr>
              <td
                ><a class="underline" href="/coupons/{one.couponId}">{one.stamp}</a>
                {stageName(one.stage).toLowerCase()}, {processName(one.process)}<br /><span
                  class="text-sm text-(--soft)"
                  >{moment(one.at, session.timeZone)}{one.clean == null
                    ? ''
                    : one.clean
                      ? ', clean'
                      : ', with a finding'}</span
                ></td
              >
              <td class="number text-right">{clockText(one.arc.arcSeconds)}</td>
              <td>{saysOf(one.arc)}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  {/if}
</Fold>
