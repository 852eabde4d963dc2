<script lang="ts">
  import LeadsOwn from '$lib/parts/LeadsOwn.svelte'
  import { changed } from '$lib/changed'
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { moment } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { session } from '$lib/session.svelte'

  const WATCH_MS = 2000
  const client = useQueryClient()
  const model = createQuery(() => ({
    queryKey: ['model'],
    queryFn: () => ask(api.GET('/api/model')),
    refetchInterval: (query) => (query.state.data?.state === 'running' ? WATCH_MS : false),
  }))

  type Constants = Schema['ReadinessConstants']
  type Part = 'general' | 'process' | 'stage' | 'gravity' | 'product' | 'own'
  type Named = Exclude<keyof Constants, 'version' | 'offsets' | Part>
  const PARTS: Record<Part, string> = {
    general: 'every weld',
    process: 'a process',
    stage: 'a stage with a process',
    gravity: 'flat, horizontal, vertical, overhead',
    product: 'plate or pipe',
    own: 'the test itself',
  }
  const NAMES: Record<Named, string> = {
    startChance: 'Chance that a first full coupon is clean',
    gainWithStart: 'Start and gain together',
    paceCoupons: 'Coupons until most of the gain is there',
    paceSpread: 'How far that differs',
    daySpread: 'Good and bad days',
    wanderPerCoupon: 'Change with each coupon',
    wanderPerDay: 'Change with each day',
    forgetDays: 'Days until practice is forgotten',
    forgetSpread: 'How far that differs',
    failedPractice: 'What a rejected element teaches',
    aidLift: 'How much easier a coached coupon is',
    aidSpread: 'How unsure that is',
    misread: 'How often a result is read wrongly',
    misreadSpread: 'How unsure that is',
    doubt: 'Doubt about all of these',
  }
  const rows: [string, (of: Constants) => number][] = [
    ...(Object.keys(PARTS) as Part[]).flatMap((part): [string, (of: Constants) => number][] => [
      [`How far students differ in ${PARTS[part]}`, (of) => of[part].spread],
      [`What practice adds to ${PARTS[part]}`, (of) => of[part].gain],
      [`How far that differs in ${PARTS[part]}`, (of) => of[part].gainSpread],
    ]),
    ...(Object.keys(NAMES) as Named[]).map((one): [string, (of: Constants) => number] => [
      NAMES[one],
      (of) => of[one],
    ]),
  ]

  async function change(post: () => Promise<unknown>, says: string) {
    await notices.attempt(async () => {
      await post()
      notices.add(says, 'done')
      await changed(client, 'model')
    })
  }
</script>

<section class="sheet p-4" aria-labelledby="by">
  <h2 id="by" class="text-xl">What the chances go by</h2>
  {#if !model.data}
    <Waiting error={model.error} retry={() => model.refetch()} what="The model" />
  {:else}
    {@const view = model.data}
    <p class="mt-1">
      {view.isFitted
        ? "The school's own constants are in use, fitted to what its students welded."
        : 'The shipped constants are in use.'}
    </p>
    {#if view.lastFit}
      {@const fit = view.lastFit}
      <p>
        Last fitted {moment(fit.at, session.timeZone)} by {fit.by}, on {fit.coupons} coupons of {fit.students} students.
        On students kept aside, a coupon was foretold with a log score of
        <span class="number">{fit.scoreBefore.toFixed(3)}</span>
        before and <span class="number">{fit.scoreAfter.toFixed(3)}</span> after{fit.adopted
          ? ': better, so it was taken over'
          : ': no better, so nothing was changed'}.
      </p>
    {/if}
    <p class="mt-2" role="status">
      {view.state === 'running'
        ? 'Fitting: a minute or two. You can go on working.'
        : view.state === 'failed'
          ? 'The fitting failed; the constants stay as they were.'
          : view.studentsAtHand < view.leastStudents
            ? `Fitting takes ${view.leastStudents} students with three closed coupons on a test; there are ${view.studentsAtHand}.`
            : ''}
    </p>
    <LeadsOwn>
      <div class="mt-2 flex flex-wrap gap-2">
        <button
          class="lead"
          disabled={view.state === 'running' || view.studentsAtHand < view.leastStudents}
          onclick={() => change(() => ask(api.POST('/api/model/fit')), 'Fitting has begun.')}
          >Fit to our own history</button
        >
        {#if view.isFitted}
          <button
            class="plate"
            disabled={view.state === 'running'}
            onclick={() =>
              change(() => ask(api.POST('/api/model/shipped')), 'The shipped constants are in use again.')}
            >Back to the shipped constants</button
          >
        {/if}
      </div>
    </LeadsOwn>
    <details class="mt-3">
      <summary class="cursor-pointer font-semibold">The constants</summary>
      <table class="ledger mt-1">
        <thead><tr><th>What</th><th>Shipped</th><th>In use</th></tr></thead>
        <tbody>
          {#each rows as [name, of], index (index)}
            <tr
              ><td>{name}</td><td class="number">{of(view.shipped).toFixed(2)}</td><td
                class="number"
                class:font-bold={of(view.constants) !== of(view.shipped)}>{of(view.constants).toFixed(2)}</td
              ></tr
            >
          {/each}
        </tbody>
      </table>
    </details>
  {/if}
</section>
