<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import { session } from '$lib/session.svelte'
  import Fold from '$lib/ui/Fold.svelte'
  import { inUnits } from '$lib/units.svelte'

  /** What ships in place of the school's own version of a test, or of its copy of some limits. */
  let { of, id, offer }: { of: 'test' | 'profile'; id: string; offer: Schema['Offer'] } = $props()
  const client = useQueryClient()
  const isLead = $derived(session.isLead)
  const count = $derived(`${offer.total} ${offer.total === 1 ? 'difference' : 'differences'}`)
  let busy = $state(false)

  async function take() {
    busy = true
    await notices.attempt(async () => {
      const params = { params: { path: { id } } }
      const saved = await ask(
        of === 'test'
          ? api.POST('/api/tests/{id}/shipped', params)
          : api.POST('/api/profiles/{id}/shipped', params),
      )
      await client.invalidateQueries({ queryKey: [of] })
      await client.invalidateQueries({ queryKey: [`${of}s`] })
      notices.add(`Taken as it ships: version ${saved.version}. Your earlier ones stay under Versions.`)
    })
    busy = false
  }
</script>

<section class="sheet mt-3 border-l-4 border-l-(--straw) p-3" aria-label="As it ships">
  <div class="flex flex-wrap items-center gap-3">
    <p class="mr-auto"><strong>It ships otherwise than yours.</strong> Yours stays until you take it.</p>
    {#if isLead}<button class="plate" disabled={busy} onclick={take}>Take it as it ships</button>{/if}
  </div>
  <Fold name="What differs" value={count}>
    <div class="overflow-x-auto">
      <table class="w-full text-left">
        <thead>
          <tr class="text-sm text-(--soft)"
            ><th class="py-1 pr-3">Where</th><th class="pr-3">Yours</th><th>As it ships</th></tr
          >
        </thead>
        <tbody>
          {#each offer.differences as one, index (index)}
            <tr class="border-t align-top">
              <th class="py-1 pr-3 font-normal first-letter:uppercase">{one.where}</th>
              <td class="pr-3">{one.yours == null ? '–' : inUnits(one.yours)}</td>
              <td>{one.shipped == null ? '–' : inUnits(one.shipped)}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
    {#if offer.total > offer.differences.length}
      <p class="text-sm text-(--soft)">The first {offer.differences.length} of {offer.total}.</p>
    {/if}
  </Fold>
</section>
