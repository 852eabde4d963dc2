<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { page } from '$app/state'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { changed } from '$lib/changed'
  import HeldList from '$lib/holds/HeldList.svelte'
  import OutsideForm from '$lib/holds/OutsideForm.svelte'
  import { notices } from '$lib/notices.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { holdsQuery } from '$lib/queries'
  import { session } from '$lib/session.svelte'
  import { signing } from '$lib/signing.svelte'
  import Fold from '$lib/ui/Fold.svelte'
  import { dayAndYear, todayIn } from '$lib/weeks'

  const studentId = $derived(page.params.id!)
  const client = useQueryClient()
  const holds = holdsQuery(() => studentId)
  const view = $derived(holds.data)
  const key = (one: Schema['OpenUse']) => `${one.couponId} ${one.process}`
  let left = $state<string[]>([])
  const toSign = $derived((view?.toSign ?? []).filter((one) => !left.includes(key(one))))
  const SHOWN = 8
  const processes = $derived([...new Set(view?.held.map((one) => one.process))])
  let process = $state('')
  let day = $state(todayIn(session.timeZone))
  let says = $state('')
  const today = todayIn(session.timeZone)
  const isIso = (one: Schema['Held']) => one.code === 'iso-9606-1'

  async function sign(uses: Schema['SignUse'][], what: string) {
    const signed = await signing.attempt(what, (header) =>
      ask(api.PUT('/api/uses', { params: { header }, body: { studentId, uses } })),
    )
    if (!signed) return
    notices.add('Signed.')
    says = ''
    await changed(client, 'holds')
  }
  const signCoupons = (rows: Schema['OpenUse'][]) =>
    sign(
      rows.map((one) => ({
        id: newId(),
        couponId: one.couponId,
        process: one.process,
        day: null,
        says: null,
        within: null,
      })),
      `${view!.studentName} has used ${[...new Set(rows.map((one) => one.process))].join(' and ')}, on ${rows.length} ${rows.length === 1 ? 'coupon' : 'coupons'}.`,
    )
  function signElsewhere(event: SubmitEvent) {
    event.preventDefault()
    const used = process || processes[0]!
    void sign(
      [
        {
          id: newId(),
          couponId: null,
          process: used,
          day,
          says,
          within: view!.held.filter((one) => isIso(one) && one.process === used).map((one) => one.number),
        },
      ],
      `${view!.studentName} has used ${used} on ${dayAndYear(day)}: ${says}`,
    )
  }
  async function takeBack(one: Schema['UseView']) {
    const signed = await signing.attempt(
      `What was signed of ${dayAndYear(one.day)} is taken back.`,
      (header) => ask(api.DELETE('/api/uses/{id}', { params: { path: { id: one.id }, header } })),
    )
    if (signed) await changed(client, 'holds')
  }
</script>

<svelte:head><title>{view ? `What ${view.studentName} holds` : 'Qualifications'} · Gradus</title></svelte:head
>

{#if !view}
  <Waiting error={holds.error} retry={() => holds.refetch()} what="The qualifications" />
{:else}
  <p class="pt-2"><a class="bare" href="/students/{studentId}">To the student</a></p>
  <div class="flex flex-wrap items-baseline gap-x-4">
    <h1 class="text-3xl break-words">{view.studentName}: what is held</h1>
    <div class="ml-auto flex flex-wrap gap-2">
      <a class="plate" href="/api/students/{studentId}/log.pdf" target="_blank" rel="noopener"
        >Log sheet (PDF)</a
      >
      {#if view.held.some((one) => one.keeping.kind !== 'ended')}<a
          class="plate"
          href="/api/certificates/cards.pdf?studentId={studentId}"
          target="_blank"
          rel="noopener">Cards</a
        >{/if}
    </div>
  </div>
  <div class="mt-3 grid items-start gap-4 lg:grid-cols-2">
    <div class="flex flex-col gap-4">
      <section class="sheet px-4 py-2" aria-labelledby="held">
        <h2 id="held" class="text-xl">Held</h2>
        {#if view.held.length}<HeldList held={view.held} />{:else}
          <p class="py-2 text-(--soft)">
            Nothing yet: it is certified on a sitting that was passed, or entered from the paper of another
            school or employer.
          </p>
        {/if}
      </section>
      <Fold name="A paper from another school or employer" value="">
        <OutsideForm {studentId} name={view.studentName} />
      </Fold>
    </div>
    <div class="flex flex-col gap-4">
      {#if view.held.length}
        <section class="sheet px-4 py-2" aria-labelledby="tosign">
          <h2 id="tosign" class="text-xl">Use to be signed for</h2>
          {#if toSign.length}
            <ul>
              {#each toSign.slice(0, SHOWN) as one (key(one))}
                <li class="flex flex-wrap items-center gap-x-3 border-t py-1 first:border-t-0">
                  <b class="w-20">{one.process}</b>
                  <a class="bare" href="/coupons/{one.couponId}"><span class="stamp">{one.stamp}</span></a>
                  <span>{dayAndYear(one.day)}, {one.testId}</span>
                  <button
                    class="bare ml-auto text-sm"
                    aria-label="Leave out {one.stamp}"
                    onclick={() => (left = [...left, key(one)])}>Leave out</button
                  >
                </li>
              {/each}
            </ul>
            {#if toSign.length > SHOWN}<p class="text-sm text-(--soft)">
                And {toSign.length - SHOWN} more.
              </p>{/if}
            <button class="lead mt-2" onclick={() => signCoupons(toSign.slice(0, SHOWN))}
              >Sign for {Math.min(SHOWN, toSign.length)}</button
            >
          {:else}
            <p class="py-2 text-(--soft)">No closed coupon waits to be signed for.</p>
          {/if}
          <Fold name="Work elsewhere" value="the job or weld">
            <form class="grid gap-2 sm:grid-cols-2" onsubmit={signElsewhere}>
              <label
                ><span class="eyebrow block">Process</span><select class="field w-full" bind:value={process}>
                  {#each processes as one (one)}<option value={one}>{one}</option>{/each}
                </select></label
              >
              <label
                ><span class="eyebrow block">Day</span><input
                  type="date"
                  class="field w-full"
                  max={today}
                  required
                  bind:value={day}
                /></label
              >
              <label class="sm:col-span-2"
                ><span class="eyebrow block">Job or weld, and its procedure</span><input
                  class="field w-full"
                  maxlength="300"
                  required
                  bind:value={says}
                /></label
              >
              <button class="plate sm:col-span-2">Sign for it</button>
              {#if view.held.some(isIso)}<p class="text-sm text-(--soft) sm:col-span-2">
                  For ISO 9606-1 you sign that it was within the range of the record.
                </p>{/if}
            </form>
          </Fold>
        </section>
      {/if}
      <section class="sheet px-4 py-2" aria-labelledby="signed">
        <h2 id="signed" class="text-xl">Signed for</h2>
        <ul>
          {#each view.proofs as one (one.id)}
            <li class="grid grid-cols-[1fr_auto] items-center gap-x-3 border-t py-1 first:border-t-0">
              <span class="leading-tight"
                ><b>{one.process}</b>, {dayAndYear(one.day)}: {one.says}<span
                  class="block text-sm text-(--soft)"
                  >{one.signedBy}; {one.keeps.length
                    ? `keeps record ${one.keeps.join(', ')} alive`
                    : 'keeps no record alive'}</span
                ></span
              >
              <button class="bare text-sm" aria-label="Take back {one.says}" onclick={() => takeBack(one)}
                >Take back</button
              >
            </li>
          {:else}<li class="py-2 text-(--soft)">Nothing yet.</li>{/each}
        </ul>
      </section>
    </div>
  </div>
{/if}
