<script lang="ts">
  import { createInfiniteQuery } from '@tanstack/svelte-query'
  import { api, ask } from '$lib/api/client'
  import { moment } from '$lib/days'
  import { session } from '$lib/session.svelte'
  import { inUnits } from '$lib/units.svelte'

  let { couponId }: { couponId: string } = $props()
  let open = $state(false)
  const pages = createInfiniteQuery(() => ({
    queryKey: ['coupon', couponId, 'history'],
    queryFn: ({ pageParam }) =>
      ask(
        api.GET('/api/coupons/{couponId}/history', {
          params: { path: { couponId }, query: { before: pageParam } },
        }),
      ),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (last) => last.older ?? undefined,
    enabled: open,
  }))
</script>

<details class="border-t pt-2" bind:open>
  <summary class="cursor-pointer py-2 font-semibold">Who did what</summary>
  {#if pages.error}
    <p class="text-(--caution)">
      The history could not be read. <button class="plate" onclick={() => pages.refetch()}>Try again</button>
    </p>
  {/if}
  <ol>
    {#each pages.data?.pages.flatMap((page) => page.rows) ?? [] as row, index (index)}
      <li class="border-t py-1">
        <span class:line-through={row.takenBack} class="break-words">{inUnits(row.says)}</span>{row.takenBack
          ? ' taken back'
          : ''}
        <span class="text-sm text-(--soft)"
          >{row.by}, {moment(row.at, session.timeZone)}{row.arrivedAt
            ? `; arrived ${moment(row.arrivedAt, session.timeZone)}`
            : ''}{row.sentBy ? `; sent by ${row.sentBy}` : ''}</span
        >
      </li>
    {/each}
  </ol>
  {#if pages.hasNextPage}<button class="plate mt-1" onclick={() => pages.fetchNextPage()}>Show older</button
    >{/if}
</details>
