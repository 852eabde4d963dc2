<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { api, ask } from '$lib/api/client'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { yearDay } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import { session } from '$lib/session.svelte'
  import { signing } from '$lib/signing.svelte'

  const client = useQueryClient()
  const keeping = createQuery(() => ({
    queryKey: ['school', 'keeping'],
    enabled: session.isLead,
    queryFn: () => ask(api.GET('/api/school/keeping')),
  }))
  let students = $state<string | null>(null)
  let acts = $state<string | null>(null)
  let traces = $state<string | null>(null)
  const shown = $derived({
    students: students ?? `${keeping.data?.studentsYears ?? ''}`,
    acts: acts ?? `${keeping.data?.actsYears ?? ''}`,
    traces: traces ?? `${keeping.data?.tracesDays ?? ''}`,
  })
  const years = (typed: string) => (typed.trim() === '' ? null : Number(typed))
  const isFit = (typed: string) => {
    const value = years(typed)
    return value === null || (Number.isInteger(value) && value >= 1 && value <= 50)
  }

  const areDays = (typed: string) => {
    const value = Number(typed)
    return typed.trim() !== '' && Number.isInteger(value) && value >= 1 && value <= 3660
  }

  async function save(event: SubmitEvent) {
    event.preventDefault()
    const body = {
      studentsYears: years(shown.students),
      actsYears: years(shown.acts),
      tracesDays: Number(shown.traces),
    }
    const signed = await signing.attempt(
      body.studentsYears === null
        ? 'Nobody is erased by itself.'
        : `Every student who left ${body.studentsYears} ${body.studentsYears === 1 ? 'year' : 'years'} ago or longer is erased, from today on and without being asked again: name, words, sign-in, absences and photos. It cannot be undone.`,
      async (header) =>
        client.setQueryData(
          ['school', 'keeping'],
          await ask(api.PUT('/api/school/keeping', { params: { header }, body })),
        ),
    )
    if (!signed) return
    students = acts = traces = null
    notices.add('Saved.', 'done')
  }
</script>

{#if !session.isLead}
  <p>The lead instructor says how long things are kept.</p>
{:else if !keeping.data}
  <Waiting error={keeping.error} retry={() => keeping.refetch()} what="How long things are kept" />
{:else}
  <form class="sheet max-w-3xl p-4" aria-label="How long things are kept" novalidate onsubmit={save}>
    <p class="mb-3">
      How long a school has to keep its records, and when it has to forget them, your law and the body you
      certify for say: ask before you set a rule. Issued records stay as they were issued, whatever stands
      here.
    </p>
    <label class="block border-t py-3"
      ><span class="eyebrow block">Students who have left</span>
      <span class="block text-sm text-(--soft)"
        >are erased after so many years; what they welded stays without a name. Empty: nobody is by itself.</span
      >
      <input
        class="field number w-24"
        inputmode="numeric"
        value={shown.students}
        oninput={(event) => (students = event.currentTarget.value)}
      />
      years</label
    >
    <label class="block border-t py-3"
      ><span class="eyebrow block">Who did what</span>
      <span class="block text-sm text-(--soft)">is forgotten after so many years. Empty: never.</span>
      <input
        class="field number w-24"
        inputmode="numeric"
        value={shown.acts}
        oninput={(event) => (acts = event.currentTarget.value)}
      />
      years</label
    >
    <label class="block border-t py-3"
      ><span class="eyebrow block">What arc loggers measured</span>
      <span class="block text-sm text-(--soft)"
        >is taken away after so many days; what was read from it stays under its bead.</span
      >
      <input
        class="field number w-24"
        inputmode="numeric"
        value={shown.traces}
        oninput={(event) => (traces = event.currentTarget.value)}
      />
      days</label
    >
    {#if !areDays(shown.traces)}
      <p class="font-semibold text-(--caution)" role="alert">Give 1 to 3660 whole days.</p>
    {/if}
    {#if !isFit(shown.students) || !isFit(shown.acts)}
      <p class="font-semibold text-(--caution)" role="alert">Give 1 to 50 whole years, or nothing.</p>
    {/if}
    <div class="flex flex-wrap items-center gap-3 border-t pt-3">
      <button class="lead" disabled={!isFit(shown.students) || !isFit(shown.acts) || !areDays(shown.traces)}
        >Sign and save</button
      >
      {#if keeping.data.saidBy}<span class="text-sm text-(--soft)">Said last by {keeping.data.saidBy}.</span
        >{/if}
    </div>
  </form>
  {#if keeping.data.studentsYears}
    <section class="mt-4 max-w-3xl" aria-label="Erased soon">
      <h2 class="text-xl">Erased within ninety days</h2>
      <ul class="mt-2">
        {#each keeping.data.soon as one (one.studentId)}
          <li class="flex flex-wrap gap-x-3 border-t py-2">
            <a class="min-w-0 grow [overflow-wrap:anywhere] underline" href="/students/{one.studentId}"
              >{one.name}</a
            >
            <span class="number">{yearDay(one.on)}</span>
          </li>
        {:else}
          <li class="text-(--soft)">Nobody.</li>
        {/each}
      </ul>
      <p class="mt-2 text-sm text-(--soft)">
        Whoever comes back before that day is not erased. The rule waits while the school is not in use, so
        that a clock that is wrong erases nobody.
      </p>
    </section>
  {/if}
{/if}
