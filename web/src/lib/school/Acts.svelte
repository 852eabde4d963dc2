<script lang="ts">
  import { createInfiniteQuery, createQuery } from '@tanstack/svelte-query'
  import { api, ask } from '$lib/api/client'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { momentOfYear } from '$lib/days'
  import { session } from '$lib/session.svelte'

  let personId = $state('')
  let from = $state('')
  let to = $state('')
  let subject = $state<{ id: string; name: string } | null>(null)
  const people = createQuery(() => ({ queryKey: ['people'], queryFn: () => ask(api.GET('/api/people')) }))
  const acts = createInfiniteQuery(() => ({
    queryKey: ['acts', personId, subject?.id, from, to],
    enabled: session.isLead,
    initialPageParam: undefined as number | undefined,
    queryFn: ({ pageParam }) =>
      ask(
        api.GET('/api/acts', {
          params: {
            query: {
              personId: personId || undefined,
              subjectId: subject?.id,
              from: from || undefined,
              to: to || undefined,
              before: pageParam,
            },
          },
        }),
      ),
    getNextPageParam: (page) => page.before ?? undefined,
  }))
  const rows = $derived(acts.data?.pages.flatMap((page) => page.acts) ?? [])
  const isNarrowed = $derived(personId !== '' || from !== '' || to !== '' || subject !== null)
</script>

{#if !session.isLead}
  <p>The lead instructor sees who did what.</p>
{:else}
  <section aria-label="Who did what">
    <p class="mb-3 max-w-3xl">
      What was changed outside of a coupon, and who took along what is kept of a person. What is entered on a
      coupon stands in its own history, with who and when.
    </p>
    <div class="mb-3 flex flex-wrap items-end gap-3">
      <label
        ><span class="eyebrow block">By</span>
        <select class="field w-56" bind:value={personId}>
          <option value="">Everybody</option>
          {#each people.data?.people ?? [] as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
        </select></label
      >
      <label
        ><span class="eyebrow block">From</span><input
          type="date"
          class="field"
          max={to}
          bind:value={from}
        /></label
      >
      <label
        ><span class="eyebrow block">To</span><input
          type="date"
          class="field"
          min={from}
          bind:value={to}
        /></label
      >
      {#if subject}
        <button class="plate [overflow-wrap:anywhere]" onclick={() => (subject = null)}
          >Only {subject.name}: show all</button
        >
      {/if}
    </div>
    {#if !acts.data}
      <Waiting error={acts.error} retry={() => acts.refetch()} what="Who did what" />
    {:else if rows.length === 0}
      <p class="text-(--soft)">
        {isNarrowed ? 'Nothing was done of that kind.' : 'Nothing was changed yet.'}
      </p>
    {:else}
      <table class="ledger w-full" aria-label="What was done">
        <thead
          ><tr
            ><th scope="col">When</th><th scope="col">Who</th><th scope="col">Did</th><th scope="col"
              >Whom or what</th
            ></tr
          ></thead
        >
        <tbody>
          {#each rows as one (one.id)}
            <tr>
              <td class="number whitespace-nowrap">{momentOfYear(one.at, session.timeZone)}</td>
              <td class="[overflow-wrap:anywhere]"
                >{one.person ?? 'Somebody who is not on the list any more'}</td
              >
              <td>{one.does}</td>
              <td class="[overflow-wrap:anywhere]">
                {#if one.subjectId && one.subject}
                  {@const named = { id: one.subjectId, name: one.subject }}
                  <button
                    class="min-h-8 underline"
                    aria-label="Only what was done to {one.subject}"
                    onclick={() => (subject = named)}>{one.subject}</button
                  >
                {/if}
                {one.detail ?? ''}
              </td>
            </tr>
          {/each}
        </tbody>
      </table>
      {#if acts.hasNextPage}
        <button class="plate mt-3" disabled={acts.isFetchingNextPage} onclick={() => acts.fetchNextPage()}
          >{acts.isFetchingNextPage ? 'Reading…' : 'Earlier ones'}</button
        >
      {/if}
    {/if}
  </section>
{/if}
