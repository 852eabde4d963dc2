<script lang="ts">
  import { changed } from '$lib/changed'
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import { session } from '$lib/session.svelte'
  import { hours, points, shortDay, todayIn } from '$lib/weeks'
  import { percent, stageName } from '$lib/words'
  import { inUnits } from '$lib/units.svelte'

  let { way, tests }: { way: Schema['WayView']; tests: Schema['StepView'][] } = $props()
  const client = useQueryClient()
  let editing = $state(false)
  let goal = $state<string[]>([])
  let job = $state('')
  let by = $state('')
  let why = $state('Passed here.')
  let day = $state('')
  let vouched = $state<Schema['Vouched']>('papers')

  function edit() {
    goal = [...way.targets]
    job = way.job ?? ''
    by = way.by ?? ''
    editing = true
  }

  async function save() {
    const done = await notices.attempt(() =>
      ask(
        api.PUT('/api/students/{studentId}/goal', {
          params: { path: { studentId: way.studentId } },
          body: { tests: goal, job: job.trim() || null, by: by || null },
        }),
      ),
    )
    if (!done) return
    editing = false
    await changed(client, 'goal')
  }

  async function credit(step: Schema['WayStep']) {
    const path = { studentId: way.studentId, testId: step.test }
    await notices.attempt(async () => {
      if (step.credited)
        await ask(api.DELETE('/api/students/{studentId}/credits/{testId}', { params: { path } }))
      else
        await ask(
          api.PUT('/api/students/{studentId}/credits/{testId}', {
            params: { path },
            body: { why, day: day || null, vouched: day ? vouched : null },
          }),
        )
      await changed(client, 'credit')
    })
  }
</script>

<div class="grid gap-3 lg:grid-cols-2">
  <section aria-label="The way" class="sheet p-3">
    <div class="flex flex-wrap items-center gap-2">
      <h2 class="text-xl">{way.studentName}: the way</h2>
      <button class="plate ml-auto" onclick={editing ? () => (editing = false) : edit}
        >{editing ? 'Leave as it was' : 'Set the goal'}</button
      >
    </div>
    {#if editing}
      <fieldset class="mt-2">
        <legend class="eyebrow mb-1">Tests that the job needs</legend>
        <div class="flex flex-wrap gap-1">
          {#each tests as test (test.test)}
            <button
              class="plate px-2"
              title={test.title}
              aria-pressed={goal.includes(test.test)}
              onclick={() =>
                (goal = goal.includes(test.test)
                  ? goal.filter((one) => one !== test.test)
                  : [...goal, test.test])}><span class="number text-lg">{test.test}</span></button
            >
          {/each}
        </div>
        <p class="mt-1 text-sm">
          Not sure which? <a class="underline" href="/library/job?student={way.studentId}"
            >Find the fewest tests for a job</a
          >.
        </p>
      </fieldset>
      <div class="mt-2 flex flex-wrap items-end gap-2">
        <label class="grow"
          ><span class="eyebrow block">The job</span>
          <input class="field w-full" maxlength="200" bind:value={job} /></label
        >
        <label
          ><span class="eyebrow block">Needed by</span>
          <input type="date" class="field" bind:value={by} /></label
        >
        <button class="lead" disabled={goal.length === 0} onclick={save}>Save the goal</button>
      </div>
    {:else}
      <p class="text-(--soft)">
        To {way.targets.join(', ')}{way.job ? ` for ${way.job}` : ''}{way.by
          ? `, by ${shortDay(way.by)}`
          : ''}; about {way.couponsPerWeek.toFixed(1)} full coupons a week.
        {#if way.isLate}<strong class="text-(--caution)">At this pace it will be late.</strong>{/if}
      </p>
    {/if}
    <ol class="mt-2 grid gap-1">
      {#each way.way as step (step.test)}
        <li
          class="flex items-center gap-2 border-l-8 py-1 pl-2"
          style:border-color={step.state === 'behind'
            ? 'var(--blue)'
            : step.state === 'now'
              ? 'var(--straw)'
              : 'var(--line)'}
        >
          <div class="min-w-0 grow">
            <p>
              <span class="number text-lg">{step.test}</span>
              {step.title}{#if step.isTarget}, <strong>goal</strong>{/if}
            </p>
            <p class="text-sm text-(--soft)">
              {#if step.credited}Behind: {step.creditedWhy}
              {:else if step.state === 'behind'}Behind: {step.chance != null
                  ? `practised to ${percent(step.chance)}`
                  : 'a later step shows it'}.
              {:else}
                {step.state === 'now' ? 'Now' : 'Ahead'}{step.chance != null
                  ? `, ${percent(step.chance)} after ${step.fullCoupons} full`
                  : ''}: about {step.couponsToBar} more, {step.when}{step.waits.length
                  ? `; after ${step.waits.join(' and ')}`
                  : ''}.
              {/if}
            </p>
          </div>
          {#if !step.bySitting}
            <button
              class="plate px-2"
              aria-pressed={step.credited}
              aria-label="{step.test} passed"
              onclick={() => credit(step)}>Passed</button
            >
          {/if}
        </li>
      {/each}
    </ol>
    <fieldset class="mt-2 flex flex-wrap items-end gap-2">
      <legend class="eyebrow">What "Passed" puts down</legend>
      <label class="grow"
        ><span class="eyebrow block">Where it was passed</span>
        <input class="field w-full" maxlength="200" bind:value={why} /></label
      >
      <label
        ><span class="eyebrow block">On the day</span>
        <input type="date" class="field" max={todayIn(session.timeZone)} bind:value={day} /></label
      >
      {#if day}
        <label
          ><span class="eyebrow block">Who says so</span>
          <select class="field" bind:value={vouched}>
            <option value="papers">Papers that I saw</option>
            <option value="word">The other school or firm</option>
            <option value="student">The student</option>
          </select></label
        >
      {/if}
      <p class="basis-full text-sm text-(--soft)">
        {day
          ? 'With its day it counts toward the chance as well, by how far it can be believed, and less the longer ago.'
          : 'Without a day it is a step behind and nothing more. With one, a test passed elsewhere counts toward the chance.'}
      </p>
    </fieldset>
  </section>

  <section aria-label="Next practice" class="sheet p-3">
    <h2 class="text-xl">What to practise next</h2>
    <ol class="mt-2 grid gap-2">
      {#each way.items as { item, card }, index (item.id)}
        <li class="border-l-8 pl-2 {index === 0 ? 'border-(--bronze)' : 'border-(--line)'}">
          <p class="text-lg">
            <strong>{item.name}</strong> <span class="number">{item.testId}</span>
          </p>
          <p>{item.why}</p>
          <p class="text-sm text-(--soft)">
            {#if item.gainPerHour > 0}<span class="number text-base">{points(item.gainPerHour)}</span> % an
              hour,
              <span class="number text-base">{points(item.gainPerCost * 10)}</span> % for ten of cost.{/if}
            {hours(item.minutes)}{item.fromCoupons
              ? `, learned from ${item.fromCoupons} coupons`
              : ', worked out from the passes'}; costs {session.money(item.cost)}; {item.holdPoints}
            {item.holdPoints === 1 ? 'look' : 'looks'} of yours.
          </p>
          <p class="text-sm">
            Works on {stageName(item.stage).toLowerCase()}{item.place ? `, ${item.place}` : ''}{item.fault
              ? `. ${item.fault}`
              : ''}{#if card}. Start at <span class="number text-base">{card.amps} A</span>, {card.electrodeClass}
              {inUnits(`${card.diameterText} in`)}{/if}.
          </p>
        </li>
      {:else}
        <li class="text-(--soft)">Nothing can be given now.</li>
      {/each}
    </ol>
    {#each way.withheld as text (text)}<p class="mt-2 text-(--soft)">{text}</p>{/each}
    <p class="mt-2 text-sm text-(--soft)">
      By running the readiness model one item ahead. You choose; local rules and a qualified inspector decide
      what may be welded unaided.
    </p>
  </section>
</div>
