<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { changed } from '$lib/changed'
  import { notices } from '$lib/notices.svelte'
  import VerdictMark from '$lib/parts/VerdictMark.svelte'
  import Mark from '$lib/ui/Mark.svelte'

  let { sitting, closed }: { sitting: Schema['SittingView']; closed: boolean } = $props()
  const client = useQueryClient()
  const BENDS = ['face', 'root', 'side']
  let busy = $state(false)

  async function start() {
    const path = { id: sitting.row.id, madeId: newId() }
    const done = await notices.attempt(() =>
      ask(api.PUT('/api/sittings/{id}/coupons/{madeId}', { params: { path } })),
    )
    if (done) await changed(client, 'coupon')
  }
  const bendsLeft = (made: Schema['MadeCoupon']) =>
    made.specimens.filter((one) => BENDS.includes(one.kind) && one.verdict == null)

  /** What is bent and shows nothing is said in one tap; what opened is entered at the bench. */
  async function allClean(made: Schema['MadeCoupon']) {
    if (busy) return
    busy = true
    await notices.attempt(async () => {
      for (const one of bendsLeft(made)) {
        await ask(
          api.PUT('/api/coupons/{couponId}/events/{id}', {
            params: { path: { couponId: made.id, id: newId() } },
            body: {
              kind: 'specimenTested',
              body: { specimen: one.index, bend: { wallMm: made.thicknessMm, discontinuities: [] } },
            },
          }),
        )
      }
    })
    busy = false
    await changed(client, 'coupon')
  }
</script>

{#each sitting.made as made (made.id)}
  {@const left = bendsLeft(made)}
  <div class="border-t py-2 first:border-t-0">
    <p class="flex flex-wrap items-center gap-x-3">
      <span class="stamp text-2xl">{made.stamp}</span>
      <a class="bare" href="/coupons/{made.id}"
        >{made.closed || closed ? 'The coupon' : 'Go on at the bench'}</a
      >
      <span class="ml-auto text-(--soft)">{made.closed ? 'closed' : 'in work'}</span>
    </p>
    <dl class="grid grid-cols-[7rem_1fr] gap-x-3 gap-y-1">
      <dt class="text-(--soft)">By eye</dt>
      <dd>
        <VerdictMark kind={made.seen} />{made.missing.length
          ? ` ${made.missing.join(', ')} to be welded`
          : ''}
      </dd>
      {#if made.specimens.length}
        <dt class="text-(--soft)">Inside</dt>
        <dd class="flex flex-col gap-0.5">
          {#each made.specimens as one (one.index)}
            <span class="flex flex-wrap items-center gap-x-2"
              >{one.name}{one.place ? `, ${one.place}` : ''}
              {#if one.verdict}<VerdictMark kind={one.verdict} />{:else}<span class="text-(--soft)"
                  >not judged yet</span
                >{/if}{#if one.why}<span class="text-sm text-(--soft)">{one.why}</span>{/if}</span
            >
          {/each}
        </dd>
      {/if}
      <dt class="text-(--soft)">Whole</dt>
      <dd><VerdictMark kind={made.whole} /></dd>
    </dl>
    {#each made.breaches as breach (breach)}
      <p class="flex items-center gap-2 font-semibold"><Mark of="caution" />{breach}</p>
    {/each}
    {#if !closed && left.length > 1}
      <button class="plate mt-2" disabled={busy} onclick={() => allClean(made)}
        >All {left.length} bends show nothing</button
      >
      <p class="text-sm text-(--soft)">What opened is entered at the bench, under Cut and break.</p>
    {/if}
  </div>
{/each}
{#if !closed && sitting.made.length < sitting.coupons}
  {#if sitting.row.state === 'booked'}
    <p class="py-2 text-(--soft)">
      The coupon is begun on the day{sitting.coupons > 1 ? `; ${sitting.coupons} have to pass` : ''}.
    </p>
  {:else}
    <button class={sitting.made.length === 0 ? 'lead' : 'plate'} onclick={start}
      >{sitting.coupons > 1
        ? `Begin coupon ${sitting.made.length + 1} of ${sitting.coupons}`
        : 'Begin its coupon'}</button
    >
  {/if}
{/if}
