<script lang="ts">
  import { createQuery, keepPreviousData, useQueryClient } from '@tanstack/svelte-query'
  import { goto } from '$app/navigation'
  import { api, ask, Refused, type Schema } from '$lib/api/client'
  import JointSection from '$lib/drawings/JointSection.svelte'
  import { editing } from '$lib/library/editing.svelte'
  import { grinderName, grinders } from '$lib/library/text'
  import { notices } from '$lib/notices.svelte'
  import { profilesQuery } from '$lib/queries'
  import LengthField from '$lib/shop/LengthField.svelte'
  import { reading } from '$lib/shop/reading'
  import NumberField from '$lib/shop/NumberField.svelte'
  import { processName, stageName, techniqueName, techniques } from '$lib/words'

  const client = useQueryClient()
  const draft = $derived(editing.draft)
  const test = $derived(editing.draft?.test)
  let asText = $state<string | null>(null)
  let textError = $state<string | null>(null)
  let busy = $state(false)

  const profiles = profilesQuery()
  const preview = createQuery(() => ({
    queryKey: ['preview', JSON.stringify(test ?? null)],
    queryFn: () =>
      ask(api.POST('/api/tests/preview', { body: { test: $state.snapshot(test), variants: {} } })),
    enabled: !!test,
    placeholderData: keepPreviousData,
    retry: false,
  }))
  const problems = $derived(
    preview.error instanceof Refused
      ? Object.entries(preview.error.fields).flatMap(([field, says]) => says.map((one) => `${field}: ${one}`))
      : preview.error
        ? ['The server cannot be reached.']
        : [],
  )

  $effect(() => {
    // Everything that is typed outlives the page.
    void JSON.stringify(editing.draft)
    editing.keep()
  })

  const layersText = (layers: number[]) => layers.join(' ')
  function readLayers(pass: Schema['PassPlan'], text: string) {
    const layers = text
      .split(/[^0-9]+/)
      .filter(Boolean)
      .map(Number)
    if (layers.length) pass.layers = layers
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
      <section class="flex min-w-0 flex-col gap-4" aria-label="The test">
        <div class="sheet grid gap-3 p-3 sm:grid-cols-[7rem_1fr_12rem]">
          <label>
            <span class="eyebrow block">Id</span>
            <input
              class="field number w-full text-xl disabled:opacity-60"
              maxlength="12"
              disabled={draft.basedOnVersion !== null}
              bind:value={test.id}
            />
          </label>
          <label>
            <span class="eyebrow block">Title</span>
            <input class="field w-full" maxlength="120" bind:value={test.title} />
          </label>
          <label>
            <span class="eyebrow block">Judged by</span>
            <select class="field w-full" bind:value={test.code}>
              {#each profiles.data ?? [] as profile (profile.id)}
                <option value={profile.id}>{profile.name}</option>
              {/each}
            </select>
          </label>
        </div>
        <fieldset class="sheet grid grid-cols-2 gap-3 p-3 md:grid-cols-4">
          <legend class="sr-only">Joint</legend>
          {#if !test.joint.pipe}
            <LengthField label="Thickness" bind:mm={test.joint.thicknessMm} />
          {/if}
          {#if test.joint.form === 'singleV' || test.joint.form === 'singleJ'}
            <NumberField label="Bevel, left" unit="°" bind:value={test.joint.bevelDegA} />
            <NumberField label="Bevel, right" unit="°" bind:value={test.joint.bevelDegB} />
            <LengthField label="Root face" bind:mm={test.joint.rootFaceMm} />
          {/if}
          {#if !test.joint.form.endsWith('Fillet')}
            <LengthField label="Gap" bind:mm={test.joint.rootOpeningMm} />
          {:else if test.joint.legMm != null}
            <LengthField label="Leg" bind:mm={test.joint.legMm} />
          {/if}
        </fieldset>
        {#each test.passes as pass, index (index)}
          <fieldset class="sheet grid grid-cols-2 items-end gap-3 p-3 md:grid-cols-[1.2fr_1fr_6rem_6rem_1fr]">
            <legend class="sr-only">Pass {index + 1}</legend>
            <p class="leading-tight">
              <strong class="text-lg">{stageName(pass.stage)}</strong><br />
              {processName(pass.process)}
              <span class="number">{pass.filler.classification} {pass.filler.diameterText}</span>
            </p>
            <label>
              <span class="eyebrow block">Beads in each layer</span>
              <input
                class="field number w-full text-xl"
                value={layersText(pass.layers)}
                onchange={(event) => readLayers(pass, event.currentTarget.value)}
              />
            </label>
            <NumberField label="From" unit="A" bind:value={pass.settings.amps.min} />
            <NumberField label="To" unit="A" bind:value={pass.settings.amps.max} />
            <label>
              <span class="eyebrow block">Technique</span>
              <select class="field w-full" bind:value={pass.technique}>
                {#each techniques as technique (technique)}
                  <option value={technique}>{techniqueName(technique)}</option>
                {/each}
              </select>
            </label>
          </fieldset>
        {/each}
        <fieldset class="sheet grid gap-3 p-3 md:grid-cols-3">
          <legend class="sr-only">Fit-up tolerances</legend>
          {#each test.fitUp.tolerances.filter( (one) => one.measure.endsWith('Mm') ) as tolerance (tolerance.measure)}
            <div class="grid grid-cols-2 gap-2">
              <LengthField
                label="{tolerance.measure === 'rootOpeningMm'
                  ? 'Gap'
                  : tolerance.measure === 'rootFaceMm'
                    ? 'Face'
                    : tolerance.measure === 'offsetMm'
                      ? 'Offset'
                      : tolerance.measure === 'ringGapMm'
                        ? 'Ring'
                        : 'Strip'}, least"
                bind:mm={tolerance.min}
              />
              <LengthField label="most" bind:mm={tolerance.max} />
            </div>
          {/each}
        </fieldset>
        <fieldset class="sheet flex flex-wrap items-end gap-3 p-3">
          <legend class="sr-only">Under test</legend>
          <label>
            <span class="eyebrow block">Grinder</span>
            <select class="field" bind:value={test.rules.grinder}>
              {#each grinders as rule (rule)}<option value={rule}>{grinderName(rule)}</option>{/each}
            </select>
          </label>
          <label>
            <span class="eyebrow block">Minutes (empty: no limit)</span>
            <input
              class="field number w-28 text-xl"
              inputmode="numeric"
              value={test.rules.timeLimitMinutes ?? ''}
              onchange={(event) => {
                const minutes = Math.round(Number(event.currentTarget.value))
                test.rules.timeLimitMinutes = minutes > 0 ? minutes : null
              }}
            />
          </label>
          <button
            class="plate"
            aria-pressed={test.rules.arcStrikeOutsideFails}
            onclick={() => (test.rules.arcStrikeOutsideFails = !test.rules.arcStrikeOutsideFails)}
            >Arc strike outside fails</button
          >
          <button
            class="plate"
            aria-pressed={test.rules.stringersOnly}
            onclick={() => (test.rules.stringersOnly = !test.rules.stringersOnly)}>Stringers only</button
          >
          <button
            class="plate"
            aria-pressed={test.rules.takeDownAllowed}
            onclick={() => (test.rules.takeDownAllowed = !test.rules.takeDownAllowed)}
            >May be taken down</button
          >
        </fieldset>
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
        <button class="lead" disabled={busy || problems.length > 0 || !draft.why.trim() || asText !== null}
          >{draft.basedOnVersion
            ? `Save as version ${draft.basedOnVersion + 1}`
            : 'Save the new test'}</button
        >
        <p class="text-sm text-(--soft)">Kept with your name and the time. Earlier versions stay.</p>
      </form>
    </section>
  </div>
{/if}
