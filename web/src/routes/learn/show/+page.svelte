<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { page } from '$app/state'
  import { api, ask, type Schema } from '$lib/api/client'
  import CoachStrip from '$lib/coach/CoachStrip.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { likes } from '$lib/likes.svelte'
  import { locales } from '$lib/paraglide/runtime'
  import { inUnits } from '$lib/units.svelte'
  import { stageName } from '$lib/words'

  const asked = $derived(page.url.searchParams)
  // A class can be shown in another language than the instructor's own.
  let language = $state(likes.language)
  const sheet = createQuery(() => ({
    queryKey: ['learn', 'show', asked.toString(), language],
    queryFn: () =>
      ask(
        api.GET('/api/coach/demonstration', {
          params: {
            query: {
              classId: asked.get('classId') ?? undefined,
              kind: asked.get('kind') as Schema['DiscontinuityKind'],
              stage: asked.get('stage') as Schema['Stage'],
              language,
            },
          },
        }),
      ),
  }))
  const view = $derived(sheet.data)
</script>

<svelte:head><title>To show · Gradus</title></svelte:head>

<div class="flex flex-wrap items-center gap-3 pt-3 pb-2 print:hidden">
  <a class="bare" href="/learn">What the class needs</a>
  <div class="ml-auto flex gap-1.5" role="group" aria-label="Language of the sheet">
    {#each locales as one (one)}
      <button class="plate" aria-pressed={language === one} onclick={() => (language = one)}
        >{new Intl.DisplayNames([one], { type: 'language' }).of(one)}</button
      >
    {/each}
  </div>
  <button class="lead" onclick={() => window.print()}>Print the sheet</button>
</div>

{#if !view}
  <Waiting error={sheet.error} retry={() => sheet.refetch()} what="The sheet" />
{:else}
  <article class="sheet p-5" lang={language}>
    <p class="eyebrow">{view.testId}, {view.testTitle}; {stageName(view.stage).toLowerCase()}</p>
    <h1 class="pb-3 text-4xl">{view.fault}</h1>
    <div class="grid gap-x-8 gap-y-4 md:grid-cols-2">
      <section aria-label="Causes">
        <ol class="list-decimal pl-6 text-lg">
          {#each view.causes as cause (cause.id)}
            <li class="pb-2">
              <strong>{inUnits(cause.cause)}.</strong>
              {inUnits(cause.why)}
              <span class="block">→ {inUnits(cause.cure)}</span>
              <span class="block text-base text-(--soft)">{inUnits(cause.doNow)}</span>
            </li>
          {/each}
        </ol>
      </section>
      <section aria-label="Stop and go on">
        <p class="text-lg font-semibold">{view.card.name}</p>
        <p>{inUnits(view.card.mistakes)}</p>
        <p class="pt-1 font-semibold">{inUnits(view.card.right)}</p>
        <p class="pt-2 text-(--soft)">
          {inUnits(
            [view.restart.stop, view.restart.dress, view.restart.strike, view.restart.goOn].join(' → '),
          )}
        </p>
        <ul class="mt-3 list-disc border-l-4 border-(--caution) pl-6 text-sm">
          {#each view.cautions as one (one)}<li>{inUnits(one)}</li>{/each}
        </ul>
      </section>
    </div>
    <div class="pt-4">
      <CoachStrip
        card={view.card}
        last={null}
        bead={view.beadKey}
        section={view.section}
        laid={new Set()}
        progression={view.progression}
      />
    </div>
    <p class="pt-3 text-sm text-(--soft)">{view.safetyLine}</p>
  </article>
{/if}
