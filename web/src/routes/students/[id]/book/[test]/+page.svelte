<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { goto } from '$app/navigation'
  import { page } from '$app/state'
  import { api, ask, newId, Refused, type Schema } from '$lib/api/client'
  import { changed } from '$lib/changed'
  import { dayOf } from '$lib/days'
  import { grinderName, grinders, rulesText } from '$lib/library/text'
  import { notices } from '$lib/notices.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { session } from '$lib/session.svelte'
  import { turnName } from '$lib/sittings/words'
  import Fold from '$lib/ui/Fold.svelte'
  import Mark from '$lib/ui/Mark.svelte'
  import { shortDay, todayIn } from '$lib/weeks'

  const studentId = $derived(page.params.id!)
  const testId = $derived(page.params.test!)
  const client = useQueryClient()
  const booking = createQuery(() => ({
    queryKey: ['booking', studentId, testId],
    queryFn: () =>
      ask(
        api.GET('/api/students/{studentId}/tests/{testId}/booking', {
          params: { path: { studentId, testId } },
        }),
      ),
  }))
  const form = $derived(booking.data)
  const today = todayIn(session.timeZone)
  const NOBODY = 'nobody'
  const OUTSIDE = 'outside'
  const FIRST_SHOWN = 6

  let time = $state<string | null>(null)
  let ownDay = $state('')
  let ownPeriod = $state(0)
  let booth = $state<string | null>(null)
  let inspector = $state<string | null>(null)
  let inspectorName = $state('')
  let procedure = $state<string | null>(null)
  let turn = $state<Schema['SittingTurn'] | null>(null)
  let profile = $state<string | null>(null)
  let variants = $state<Record<string, string>>({})
  let byFilm = $state(false)
  let ownRules = $state<Schema['TestRules'] | null>(null)
  let despite = $state('')
  let asked = $state<string[]>([])
  let busy = $state(false)
  const id = newId()

  const key = (one: Schema['OfferedTime']) => `${one.day} ${one.period}`
  const chosen = $derived(
    time === 'own'
      ? null
      : ((form?.times ?? []).find((one) => key(one) === time) ??
          form?.times.find((one) => one.day > today) ??
          form?.times[0] ??
          null),
  )
  const free = $derived((form?.booths ?? []).filter((one) => !chosen || chosen.booths.includes(one.id)))
  const boothId = $derived(
    booth === NOBODY ? null : (free.find((one) => one.id === booth)?.id ?? free[0]?.id ?? null),
  )
  const inspectorId = $derived(
    inspector === NOBODY || inspector === OUTSIDE
      ? null
      : ((form?.people ?? []).find((one) => one.id === inspector)?.id ??
          (form?.people ?? []).find((one) => one.inspects)?.id ??
          session.view?.person?.id ??
          null),
  )
  const rules = $derived(ownRules ?? form?.rules)
  const chosenTurn = $derived(turn ?? (form?.ways.length ? form.ways[0]!.turn : 'first'))
  const speaksAgainst = $derived(asked.length ? asked : (form?.concerns ?? []))
  const periods = $derived([...new Map((form?.times ?? []).map((one) => [one.period, one.periodName]))])

  function change(part: Partial<Schema['TestRules']>) {
    ownRules = { ...(ownRules ?? form!.rules), ...part }
  }

  async function book(event: SubmitEvent) {
    event.preventDefault()
    if (busy || !form) return
    busy = true
    const body: Schema['SittingRequest'] = {
      studentId,
      testId,
      day: time === 'own' ? ownDay || null : (chosen?.day ?? null),
      period: time === 'own' ? ownPeriod : (chosen?.period ?? null),
      decisionId: form.decisionId,
      boothId,
      variants: { ...form.chosen, ...variants },
      judgedBy: profile,
      procedure: (procedure ?? form.procedures[0] ?? '').trim() || null,
      inspectorId,
      inspectorName: inspector === OUTSIDE ? inspectorName.trim() || null : null,
      rules: ownRules,
      byFilm,
      turn: chosenTurn,
      despite: despite.trim() || null,
    }
    await notices.attempt(async () => {
      try {
        await ask(api.PUT('/api/sittings/{id}', { params: { path: { id } }, body }))
      } catch (error) {
        if (error instanceof Refused && error.fields.despite) {
          asked = error.fields.despite.slice(0, -1)
          return
        }
        throw error
      }
      notices.add(`Booked: ${form.studentName}, ${testId}.`)
      await changed(client, 'sitting')
      await goto(`/sittings/${id}`)
    })
    busy = false
  }
</script>

<svelte:head><title>{form ? `Book: ${form.studentName}` : 'Book a sitting'} · Gradus</title></svelte:head>

{#if !form}
  <Waiting error={booking.error} retry={() => booking.refetch()} what="The booking" />
{:else}
  <p class="pt-2"><a class="bare" href="/students/{studentId}/decide/{testId}">To the decision</a></p>
  <h1 class="text-3xl break-words">Book {form.studentName} for {testId}</h1>
  <p class="text-(--soft)">
    {form.title}.{form.decidedAt ? ` “Test now” was signed ${dayOf(form.decidedAt, session.timeZone)}.` : ''}
  </p>
  <form class="mt-3 grid items-start gap-4 lg:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)]" onsubmit={book}>
    <div class="sheet flex flex-col gap-4 p-4">
      <fieldset>
        <legend class="eyebrow mb-1">When</legend>
        <div class="grid grid-cols-2 gap-2 sm:grid-cols-3">
          {#each form.times.slice(0, FIRST_SHOWN) as one (key(one))}
            <button
              type="button"
              class="plate flex-col gap-0"
              aria-pressed={chosen !== null && key(one) === key(chosen)}
              onclick={() => (time = key(one))}
              ><span>{one.day === today ? 'Today' : shortDay(one.day)}</span><span
                class="text-sm font-normal opacity-80"
                >{one.periodName.toLowerCase()}, {one.starts.slice(0, 5)}</span
              ></button
            >
          {/each}
          <button type="button" class="plate" aria-pressed={time === 'own'} onclick={() => (time = 'own')}
            >Another day</button
          >
        </div>
        {#if time === 'own'}
          <div class="mt-2 flex flex-wrap gap-2">
            <label
              ><span class="eyebrow block">Day</span><input
                type="date"
                class="field"
                min={today}
                required
                bind:value={ownDay}
              /></label
            >
            <label
              ><span class="eyebrow block">Period</span><select class="field" bind:value={ownPeriod}>
                {#each periods as [period, name] (period)}<option value={period}>{name}</option>{/each}
              </select></label
            >
          </div>
        {:else if form.times.length === 0}
          <p class="mt-1">The class does not meet in the next three weeks: choose another day.</p>
        {/if}
      </fieldset>
      <div class="grid gap-3 sm:grid-cols-2">
        <label
          ><span class="eyebrow block">Booth</span>
          <select
            class="field w-full"
            value={boothId ?? NOBODY}
            onchange={(event) => (booth = event.currentTarget.value)}
          >
            {#each free as one (one.id)}<option value={one.id}>Booth {one.number}</option>{/each}
            <option value={NOBODY}>Said on the day</option>
          </select></label
        >
        <label
          ><span class="eyebrow block">Inspector or witness</span>
          <select
            class="field w-full"
            value={inspector ?? inspectorId ?? NOBODY}
            onchange={(event) => (inspector = event.currentTarget.value)}
          >
            {#each form.people as one (one.id)}<option value={one.id}
                >{one.name}{one.inspects ? ', inspector' : ''}</option
              >{/each}
            <option value={OUTSIDE}>Somebody from outside</option>
            <option value={NOBODY}>Nobody yet</option>
          </select></label
        >
        {#if inspector === OUTSIDE}
          <label class="sm:col-span-2"
            ><span class="eyebrow block">Their name</span><input
              class="field w-full"
              maxlength="100"
              required
              bind:value={inspectorName}
            /></label
          >
        {/if}
        <label class="sm:col-span-2"
          ><span class="eyebrow block">Procedure (WPS and revision)</span>
          <input
            class="field w-full"
            maxlength="200"
            list="procedures"
            value={procedure ?? form.procedures[0] ?? ''}
            oninput={(event) => (procedure = event.currentTarget.value)}
          />
          <datalist id="procedures">
            {#each form.procedures as one (one)}<option value={one}></option>{/each}
          </datalist></label
        >
      </div>
      {#if form.ways.length}
        <fieldset>
          <legend class="eyebrow mb-1">The last sitting was not passed</legend>
          <div class="flex flex-wrap gap-2">
            {#each form.ways as way (way.turn)}
              <button
                type="button"
                class="plate"
                aria-pressed={chosenTurn === way.turn}
                onclick={() => (turn = way.turn)}
                >{turnName(way.turn)}: {way.coupons} {way.coupons === 1 ? 'coupon' : 'coupons'}</button
              >
            {/each}
          </div>
          <p class="mt-1 text-sm text-(--soft)">{form.retestRule}</p>
          {#if form.ways.find((one) => one.turn === chosenTurn)?.needs}<p class="text-sm">
              Needs: {form.ways.find((one) => one.turn === chosenTurn)?.needs}
            </p>{/if}
        </fieldset>
      {/if}
      {#if speaksAgainst.length}
        <div class="border-l-4 border-(--caution) pl-3">
          {#each speaksAgainst as one (one)}
            <p class="flex items-start gap-2 font-semibold"><Mark of="caution" />{one}</p>
          {/each}
          <label class="mt-2 block"
            ><span class="eyebrow block">Why it is booked all the same</span><textarea
              class="field min-h-[52px] w-full"
              maxlength="500"
              required
              bind:value={despite}></textarea></label
          >
        </div>
      {/if}
      <button class="lead self-start" disabled={busy}>Book the sitting</button>
    </div>
    <div class="sheet p-4">
      <h2 class="text-lg">How it is held</h2>
      <p class="mb-1 text-sm text-(--soft)">From the test and the last coupon made as under test.</p>
      {#if rules}
        <ul class="list-disc pl-5">
          {#each rulesText(rules) as line (line)}<li>{line}</li>{/each}
          <li>
            Cut: {byFilm ? 'filmed in place of it' : form.specimens.join(', ').toLowerCase() || 'nothing'}
          </li>
        </ul>
        <Fold name="Rules of this sitting" value={ownRules ? 'changed' : 'as the test has them'}>
          <div class="flex flex-col gap-2">
            <label
              ><span class="eyebrow block">Grinder</span><select
                class="field w-full"
                value={rules.grinder}
                onchange={(event) => change({ grinder: event.currentTarget.value as Schema['GrinderRule'] })}
              >
                {#each grinders as one (one)}<option value={one}>{grinderName(one)}</option>{/each}
              </select></label
            >
            <label
              ><span class="eyebrow block">Time limit in minutes, or none</span><input
                type="number"
                min="1"
                max="1440"
                class="field w-full"
                value={rules.timeLimitMinutes}
                onchange={(event) =>
                  change({
                    timeLimitMinutes: event.currentTarget.value ? Number(event.currentTarget.value) : null,
                  })}
              /></label
            >
            {#each [['arcStrikeOutsideFails', 'An arc strike outside fails'], ['helpAllowed', 'Help allowed'], ['takeDownAllowed', 'May be taken down']] as const as [name, label] (name)}
              <button
                type="button"
                class="plate justify-start pl-7"
                aria-pressed={rules[name]}
                onclick={() => change({ [name]: !rules[name] })}>{label}</button
              >
            {/each}
          </div>
        </Fold>
      {/if}
      <Fold
        name="Way of the test"
        value={form.variants.length
          ? form.variants
              .map(
                (group) =>
                  group.options.find(
                    (option) =>
                      option.id === (variants[group.id] ?? form.chosen[group.id] ?? group.options[0]?.id),
                  )?.name,
              )
              .join(', ')
          : 'one only'}
      >
        <div class="flex flex-col gap-2">
          {#each form.variants as group (group.id)}
            <label
              ><span class="eyebrow block">{group.name}</span><select
                class="field w-full"
                value={variants[group.id] ?? form.chosen[group.id] ?? group.options[0]?.id}
                onchange={(event) => (variants[group.id] = event.currentTarget.value)}
              >
                {#each group.options as option (option.id)}<option value={option.id}>{option.name}</option
                  >{/each}
              </select></label
            >
          {/each}
          {#if form.profiles.length > 1}
            <label
              ><span class="eyebrow block">Judged and certified by</span><select
                class="field w-full"
                value={profile ?? form.profileId}
                onchange={(event) => (profile = event.currentTarget.value)}
              >
                {#each form.profiles as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
              </select></label
            >
          {/if}
          {#if form.takesFilm}
            <button
              type="button"
              class="plate justify-start pl-7"
              aria-pressed={byFilm}
              onclick={() => (byFilm = !byFilm)}>Film in place of bends</button
            >
          {/if}
        </div>
      </Fold>
      <p class="mt-3 text-sm text-(--soft)">
        Local codes, the governing edition and a qualified inspector decide.
      </p>
    </div>
  </form>
{/if}
