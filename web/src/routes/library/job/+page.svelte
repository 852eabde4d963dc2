<script lang="ts">
  import { page } from '$app/state'
  import { createQuery } from '@tanstack/svelte-query'
  import { session } from '$lib/session.svelte'
  import { dayAndYear } from '$lib/weeks'
  import { inUnits, MM_PER_INCH as INCH } from '$lib/units.svelte'
  import { api, ask, Refused, type Schema } from '$lib/api/client'
  import Choice from '$lib/shop/Choice.svelte'
  import JobGoal from '$lib/library/JobGoal.svelte'
  import {
    climbs,
    keepJob,
    keptJob,
    positionIn,
    positionsOf,
    PROCESSES,
    PRODUCTS,
    ROOTS,
    RUNS,
    WELDS,
    type AskedWeld,
    type Job,
  } from '$lib/library/weld'
  import LengthField from '$lib/shop/LengthField.svelte'
  import { reading } from '$lib/shop/reading'
  import NumberField from '$lib/shop/NumberField.svelte'
  import { codeName, QUALIFYING, type QualifyingCode as Code } from '$lib/words'

  const CODES: { id: Code; name: string }[] = QUALIFYING.map((id) => ({
    id,
    name: codeName(id),
  }))
  const AIMS: { id: Schema['CoverageAim']; name: string }[] = [
    { id: 'fewest', name: 'Fewest tests' },
    { id: 'cheapest', name: 'Least booth time' },
  ]
  const VARIABLES: Record<string, string> = {
    fNumber: 'the filler',
    backing: 'the open root',
    position: 'the position',
    thickness: 'the thickness',
    diameter: 'the diameter',
    process: 'the process',
    progression: 'the run',
    joint: 'the joint',
  }

  const usual = (): AskedWeld => ({
    product: 'plate',
    weld: 'groove',
    position: 'V',
    thicknessMinMm: (3 / 16) * INCH,
    thicknessMaxMm: (5 / 8) * INCH,
    diameterMm: 6.625 * INCH,
    backing: 'yes',
    process: 'SMAW',
    fNumber: 4,
    progression: 'uphill',
  })
  const job = $state<Job>(keptJob() ?? { code: 'aws-d1.1', aim: 'fewest', welds: [usual()] })
  $effect(() => keepJob(job))

  const positions = $derived(positionsOf(job.code))
  $effect(() => {
    for (const weld of job.welds) if (!positions.includes(weld.position)) weld.position = positions[0]!
  })

  let answer = $state<Schema['CoverageAnswer'] | null>(null)
  /** What of the job a student holds already; empty when none was chosen. */
  let held = $state<Schema['HeldFor'][]>([])
  let student = $state(page.url.searchParams.get('student') ?? '')
  const floor = createQuery(() => ({
    queryKey: ['floor'],
    queryFn: () => ask(api.GET('/api/floor')),
    enabled: !!session.view?.person && !session.isStudent,
  }))
  /** The same job by each code: what is held, what is to be taken, what nothing covers. */
  type ByCode = { code: Code; held: number; tests: string[]; uncovered: number }
  let byCode = $state<ByCode[]>([])
  let problems = $state<string[]>([])
  let busy = $state(false)
  const name = (index: number) => `Weld ${index + 1}`

  const wayHref = (one: Schema['ChosenTest']) =>
    `/library/${one.test}${Object.entries(one.variants ?? {})
      .map(([group, option], index) => `${index ? '&' : '?'}variants=${group}:${option}`)
      .join('')}`

  const says = $derived(
    [
      ...new Set(
        job.welds.map((weld) => `${weld.process} ${weld.weld} on ${weld.product}, position ${weld.position}`),
      ),
    ]
      .join('; ')
      .slice(0, 200),
  )

  /** The question as a code asks it. */
  const askedBy = (code: Code) => ({
    code,
    aim: job.aim,
    tests: null,
    costs: null,
    welds: job.welds.map((weld, index) => {
      const position = positionIn(code, weld)
      return {
        name: name(index),
        product: weld.product,
        weld: weld.weld,
        position,
        thicknessMinMm: weld.thicknessMinMm,
        thicknessMaxMm: weld.thicknessMaxMm,
        diameterMm: weld.product === 'pipe' ? weld.diameterMm : null,
        backing: weld.backing === 'yes',
        process: weld.process,
        fNumber: weld.fNumber,
        progression: climbs(position) ? weld.progression : ('none' as const),
      }
    }),
  })
  async function answerBy(code: Code) {
    const asked = askedBy(code)
    const has = student
      ? await ask(
          api.POST('/api/students/{studentId}/covers', {
            params: { path: { studentId: student } },
            body: asked,
          }),
        )
      : []
    const known = new Set(has.filter((one) => one.recordId).map((one) => one.name))
    const welds = asked.welds.filter((weld) => !known.has(weld.name))
    const found: Schema['CoverageAnswer'] = welds.length
      ? await ask(api.POST('/api/coverage', { body: { ...asked, welds } }))
      : { tests: [], chosen: [], covered: [], uncovered: [], cost: 0, proved: true }
    return { has, found }
  }

  async function find() {
    busy = true
    await reading.settled()
    problems = []
    try {
      const own = await answerBy(job.code)
      held = own.has
      answer = own.found
      byCode = (
        await Promise.all(
          QUALIFYING.map(async (code) => {
            const { has, found } = code === job.code ? own : await answerBy(code)
            return {
              code,
              held: has.filter((one) => one.recordId).length,
              tests: found.tests,
              uncovered: found.uncovered.length,
            }
          }),
        )
      ).filter((one) => one.held || one.tests.length)
    } catch (error) {
      answer = null
      problems =
        error instanceof Refused
          ? [...new Set(Object.values(error.fields).flat())]
          : ['The server cannot be reached.']
    }
    busy = false
  }

  // Another question has another answer.
  $effect(() => {
    void JSON.stringify(job)
    void student
    answer = null
    held = []
    byCode = []
  })
</script>

<svelte:head><title>For a job · Library · Gradus</title></svelte:head>

<div class="grid gap-4 lg:grid-cols-[1.5fr_1fr]">
  <div class="flex min-w-0 flex-col gap-3">
    <div class="flex flex-wrap gap-4">
      <Choice label="Code" options={CODES} bind:value={job.code} />
      <Choice label="Choose" options={AIMS} bind:value={job.aim} />
    </div>
    {#if floor.data?.students.length}
      <label class="max-w-md"
        ><span class="eyebrow block">Starting from what somebody holds</span>
        <select class="field w-full" bind:value={student}>
          <option value="">Nobody: all tests that the job needs</option>
          {#each floor.data.students as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
        </select></label
      >
    {/if}
    {#each job.welds as weld, index (index)}
      <fieldset class="sheet grid grid-cols-2 items-start gap-3 p-3 md:grid-cols-4">
        <legend class="sr-only">{name(index)}</legend>
        <div class="col-span-full flex items-center justify-between">
          <h2 class="text-lg">{name(index)}</h2>
          {#if job.welds.length > 1}
            <button
              class="plate"
              aria-label="Leave out {name(index)}"
              onclick={() => job.welds.splice(index, 1)}>Leave out</button
            >
          {/if}
        </div>
        <Choice label="On" options={PRODUCTS} bind:value={weld.product} />
        <Choice label="Weld" options={WELDS} bind:value={weld.weld} />
        {#if weld.weld === 'groove'}<Choice label="Root" options={ROOTS} bind:value={weld.backing} />{/if}
        <label>
          <span class="eyebrow block">Process</span>
          <select class="field w-full" bind:value={weld.process}>
            {#each PROCESSES as process (process)}<option>{process}</option>{/each}
          </select>
        </label>
        <label>
          <span class="eyebrow block">Position</span>
          <select class="field number w-full text-lg" bind:value={weld.position}>
            {#each positions as position (position)}<option>{position}</option>{/each}
          </select>
        </label>
        <LengthField label="Thinnest" bind:mm={weld.thicknessMinMm} />
        <LengthField label="Thickest" bind:mm={weld.thicknessMaxMm} />
        {#if weld.product === 'pipe'}<LengthField label="Outside diameter" bind:mm={weld.diameterMm} />{/if}
        <NumberField label="F-number of the filler" bind:value={weld.fNumber} />
        {#if climbs(weld.position)}
          <Choice label="Run" options={RUNS} bind:value={weld.progression} />
        {/if}
      </fieldset>
    {/each}
    <div class="flex flex-wrap gap-2">
      <button class="plate" disabled={job.welds.length >= 20} onclick={() => job.welds.push(usual())}
        >Add a weld</button
      >
      <button class="lead" disabled={busy} onclick={find}>Which tests?</button>
    </div>
    {#each problems as problem (problem)}<p class="text-(--caution)" role="alert">{problem}</p>{/each}
  </div>
  <section
    class="sheet min-w-0 self-start p-4 lg:sticky lg:top-3"
    aria-label="The tests to take"
    aria-live="polite"
  >
    {#if !answer}
      <p class="text-(--soft)">
        Say what the job welds, and Gradus names the tests of the library that qualify for all of it.
      </p>
    {:else}
      {#each held.filter((one) => one.recordId) as one (one.name)}
        <p class="border-b py-1">
          <strong>{one.name}</strong>: held already, by
          <a class="bare min-h-0 py-0" href="/certificates/{one.recordId}">record {one.number}</a>, until {dayAndYear(
            one.endsOn!,
          )}.
        </p>
      {/each}
      {#if held.length && held.every((one) => one.recordId)}
        <p class="mt-2 text-lg font-semibold">Nothing is missing for this job.</p>
      {:else if held.length}
        <p class="eyebrow mt-2">
          Missing: {held
            .filter((one) => !one.recordId)
            .map((one) => one.name)
            .join(', ')}
        </p>
      {/if}
      {#if answer.tests.length}
        <p class="eyebrow">
          {answer.proved ? 'No smaller choice covers it' : 'The best found in time'}; about {Math.round(
            answer.cost,
          )} minutes in the booth for one coupon of each
        </p>
        <p class="flex flex-wrap gap-2 py-1">
          {#each answer.chosen as one (one.test + one.way)}<a class="plate" href={wayHref(one)}
              ><span class="number text-2xl">{one.test}</span>{#if one.way}<span class="text-sm"
                  >{inUnits(one.way)}</span
                >{/if}</a
            >{/each}
        </p>
        <ul>
          {#each answer.covered as one (one.weld)}
            <li class="border-t py-1"><strong>{one.weld}</strong>: {inUnits(one.by.join(' with '))}</li>
          {/each}
        </ul>
      {/if}
      {#each answer.uncovered as one (one.weld)}
        <div class="mt-2 border-l-4 border-(--caution) pl-3">
          <p class="font-semibold text-(--caution)">{one.weld}: no test of the library covers it.</p>
          <p>
            {one.nearest ? `${inUnits(one.nearest)} comes nearest` : 'Nothing comes near'}; it lacks
            {one.missing
              .map(
                (gap) =>
                  `${VARIABLES[gap.variable] ?? gap.variable} (needs ${gap.needed}, has ${gap.qualified})`,
              )
              .join('; ')}.
          </p>
        </div>
      {/each}
      {#if byCode.length > 1 || (byCode.length === 1 && byCode[0]!.code !== job.code)}
        <h2 class="mt-3 border-t pt-2 text-lg">The same job by each code</h2>
        <table class="ledger w-full">
          <thead>
            <tr class="text-sm text-(--soft)">
              <th class="font-normal">Code</th>
              {#if student}<th class="font-normal">Held</th>{/if}
              <th class="font-normal">To take</th>
              <th class="font-normal">Not covered</th>
            </tr>
          </thead>
          <tbody>
            {#each byCode as one (one.code)}
              <tr class="border-t">
                <th class="py-1 font-normal">{codeName(one.code)}</th>
                {#if student}<td class="number text-lg">{one.held} of {job.welds.length}</td>{/if}
                <td class="number text-lg">{one.tests.join(' ') || 'nothing'}</td>
                <td class="number text-lg">{one.uncovered || 'none'}</td>
              </tr>
            {/each}
          </tbody>
        </table>
        <p class="text-sm text-(--soft)">
          No test of one code counts for another by itself: each is taken, cut and signed by its own.
        </p>
      {/if}
      {#if answer.tests.length}<JobGoal tests={answer.tests} {says} {student} />{/if}
      <p class="mt-3 text-sm text-(--soft)">
        Ranges written from memory: check against your edition. Local codes, the governing edition and a
        qualified inspector decide.
      </p>
    {/if}
  </section>
</div>
