<script lang="ts">
  import { createQuery, keepPreviousData, useQueryClient } from '@tanstack/svelte-query'
  import { goto } from '$app/navigation'
  import { api, ask, Refused, type Schema } from '$lib/api/client'
  import JointSection from '$lib/drawings/JointSection.svelte'
  import { editing } from '$lib/library/editing.svelte'
  import EditFit from '$lib/library/edit/EditFit.svelte'
  import EditPasses from '$lib/library/edit/EditPasses.svelte'
  import EditRules from '$lib/library/edit/EditRules.svelte'
  import EditVariants from '$lib/library/edit/EditVariants.svelte'
  import EditWhat from '$lib/library/edit/EditWhat.svelte'
  import { notices } from '$lib/notices.svelte'
  import { reading } from '$lib/shop/reading'
  import Fold from '$lib/ui/Fold.svelte'
  import { inUnits } from '$lib/units.svelte'
  import { stageName } from '$lib/words'

  const client = useQueryClient()
  const draft = $derived(editing.draft)
  const test = $derived(editing.draft?.test)
  let asText = $state<string | null>(null)
  let textError = $state<string | null>(null)
  let busy = $state(false)

  // It is drawn before it has a name.
  const named = (of: Schema['TestTemplate']) => ({ ...of, id: of.id || 'NEW', title: of.title || 'New' })
  const isNamed = $derived(!!test?.id.trim() && !!test.title.trim())
  const preview = createQuery(() => ({
    queryKey: ['preview', JSON.stringify(test ?? null)],
    queryFn: () =>
      ask(api.POST('/api/tests/preview', { body: { test: named($state.snapshot(test)!), variants: {} } })),
    enabled: !!test,
    placeholderData: keepPreviousData,
    retry: false,
  }))
  const problems = $derived(
    preview.error instanceof Refused
      ? [...new Set(Object.values(preview.error.fields).flat())].map((one) => one.replace(/^The test: /, ''))
      : preview.error
        ? ['The server cannot be reached.']
        : [],
  )

  $effect(() => {
    // Everything that is typed outlives the page.
    void JSON.stringify(editing.draft)
    editing.keep()
  })

  let folds = $state({ what: true, passes: true, fit: false, variants: false, rules: false })
  const passesLine = $derived(
    test?.passes
      .map((pass) => `${stageName(pass.stage).toLowerCase()} ${pass.layers.join(' ')}`)
      .join(', ') ?? '',
  )
  const change = $derived(problems.length ? null : preview.data?.change)
  function cut(code: string) {
    const taken = preview.data?.cuts.find((one) => one.code === code)
    if (taken && test)
      test.specimens = structuredClone($state.snapshot(taken.specimens)) as Schema['Specimen'][]
  }

  function toText() {
    asText = JSON.stringify($state.snapshot(test), null, 2)
    textError = null
  }

  function takeText() {
    try {
      editing.draft!.test = JSON.parse(asText ?? '') as Schema['TestTemplate']
      asText = null
      textError = null
    } catch (error) {
      textError = error instanceof Error ? error.message : 'This is not JSON.'
    }
  }

  async function save() {
    if (!draft) return
    busy = true
    await reading.settled()
    const id = draft.test.id
    await notices.attempt(async () => {
      const saved = await ask(
        api.PUT('/api/tests/{id}', {
          params: { path: { id } },
          body: { test: $state.snapshot(draft.test), basedOnVersion: draft.basedOnVersion, why: draft.why },
        }),
      )
      editing.putAway()
      await client.invalidateQueries({ queryKey: ['tests'] })
      await client.invalidateQueries({ queryKey: ['test'] })
      notices.add(`${id} saved as version ${saved.version}. Open coupons keep the version they began with.`)
      await goto(`/library/${id}`)
    })
    busy = false
  }

  function putAway() {
    const id = draft?.basedOnVersion ? draft.test.id : ''
    editing.putAway()
    void goto(`/library/${id}`)
  }
</script>

<svelte:head><title>Edit a test · Gradus</title></svelte:head>

{#if !draft || !test}
  <p class="sheet p-6 text-lg">
    Nothing is being changed. <a class="underline" href="/library">Back to the tests.</a>
  </p>
{:else}
  <div class="flex flex-wrap items-center gap-2">
    <h2 class="mr-auto text-2xl">
      {draft.basedOnVersion ? `Change ${test.id}` : `New test ${test.id}`}
    </h2>
    {#if asText === null}
      <button class="plate" onclick={toText}>Everything as JSON</button>
    {/if}
    <button class="plate" onclick={putAway}>Put away</button>
  </div>
  <div class="mt-2 grid gap-4 lg:grid-cols-[1.4fr_1fr]">
    {#if asText !== null}
      <section class="sheet flex min-w-0 flex-col gap-2 p-3" aria-label="The test as JSON">
        <textarea
          class="field h-[60vh] w-full font-mono text-sm"
          aria-label="The test as JSON"
          spellcheck="false"
          bind:value={asText}></textarea>
        {#if textError}<p class="text-(--caution)" role="alert">{textError}</p>{/if}
        <div class="flex gap-2">
          <button class="lead" onclick={takeText}>Take it over</button>
          <button class="plate" onclick={() => (asText = null)}>Back without it</button>
        </div>
      </section>
    {:else}
      <section class="sheet min-w-0 px-3" aria-label="The test">
        <Fold name="What it is" value={test.title || 'no title yet'} bind:open={folds.what}>
          <EditWhat {test} isNew={draft.basedOnVersion === null} />
        </Fold>
        <Fold name="Passes" value={passesLine} bind:open={folds.passes}><EditPasses {test} /></Fold>
        <Fold
          name="Fit-up"
          value="{test.fitUp.tolerances.length} measures, {test.fitUp.questions.length} questions"
          bind:open={folds.fit}><EditFit {test} /></Fold
        >
        <Fold
          name="Where schools differ"
          value={test.variants.map((one) => one.name).join(', ') || 'nowhere'}
          bind:open={folds.variants}><EditVariants {test} /></Fold
        >
        <Fold
          name="Under test"
          value="{test.specimens.length} specimens, {test.rules.holdPoints.length} hold points, {test.drills
            .length} drills"
          bind:open={folds.rules}><EditRules {test} cuts={preview.data?.cuts ?? []} {cut} /></Fold
        >
        <p class="py-3 text-sm text-(--soft)">
          The words beside each bead are the school's to change under <a
            class="underline"
            href="/library/coach">Coach</a
          >.
        </p>
      </section>
    {/if}
    <section class="flex min-w-0 flex-col gap-3 self-start lg:sticky lg:top-3" aria-label="How it comes out">
      <div class="sheet p-3">
        {#if preview.data}<JointSection section={preview.data.sections[0]!.section} />{/if}
        {#each problems as problem (problem)}<p class="text-(--caution)" role="alert">{problem}</p>{/each}
        {#if preview.data && !problems.length}
          <p class="text-sm text-(--soft)">
            {preview.data.sections[0]!.section.beads.length} beads, about {Math.round(
              preview.data.budget.boothMinutes ?? 0,
            )} minutes in the booth.
          </p>
        {/if}
        {#if change}
          <p class="mt-2 border-t pt-2">
            {change.openCoupons === 0
              ? 'No coupon of it is open.'
              : `${change.openCoupons} open ${change.openCoupons === 1 ? 'coupon keeps its' : 'coupons keep their'} version.`}
            What is begun from now on is made to the new one.
          </p>
          {#if change.differences}
            <Fold
              name="What changes"
              value="{change.differences.total} {change.differences.total === 1 ? 'place' : 'places'}"
            >
              <ul class="text-sm">
                {#each change.differences.differences as one, index (index)}
                  <li class="border-t py-1">
                    <strong class="inline-block first-letter:uppercase">{one.where}</strong>:
                    {one.shipped == null ? '' : inUnits(one.shipped)}
                    {one.shipped != null && one.yours != null ? '→' : one.yours != null ? 'new:' : 'left out'}
                    {one.yours == null ? '' : inUnits(one.yours)}
                  </li>
                {/each}
              </ul>
            </Fold>
          {:else}
            <p class="text-sm text-(--soft)">Nothing has been changed yet.</p>
          {/if}
        {/if}
      </div>
      <form
        class="sheet flex flex-col gap-2 p-3"
        onsubmit={(event) => {
          event.preventDefault()
          void save()
        }}
      >
        <label>
          <span class="eyebrow block">Why</span>
          <input
            class="field w-full"
            maxlength="300"
            required
            placeholder="The school's WPS, 2026 edition, ..."
            bind:value={draft.why}
          />
        </label>
        <button
          class="lead"
          disabled={busy || problems.length > 0 || !isNamed || !draft.why.trim() || asText !== null}
          >{draft.basedOnVersion
            ? `Save as version ${draft.basedOnVersion + 1}`
            : 'Save the new test'}</button
        >
        {#if !isNamed}<p class="text-sm">Give it an id and a title.</p>{/if}
        <p class="text-sm text-(--soft)">Kept with your name and the time. Earlier versions stay.</p>
      </form>
    </section>
  </div>
{/if}
