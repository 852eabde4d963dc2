<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { session } from '$lib/session.svelte'
  import Fold from '$lib/ui/Fold.svelte'

  const client = useQueryClient()
  const book = createQuery(() => ({ queryKey: ['coach'], queryFn: () => ask(api.GET('/api/coach')) }))
  const view = $derived(book.data)
  const byText = $derived(new Map((view?.sentences ?? []).map((one) => [one.sentence, one])))
  let looked = $state('')
  const MOST = 40
  const found = $derived(
    looked.trim().length < 2
      ? []
      : (view?.sentences ?? [])
          .filter((one) =>
            [...Object.values(one.shipped), ...Object.values(one.school)].some((text) =>
              text.toLowerCase().includes(looked.trim().toLowerCase()),
            ),
          )
          .slice(0, MOST),
  )

  /** Says a sentence in the school's own words; nothing takes them back. */
  async function say(sentence: string, language: string, text: string) {
    const one = byText.get(sentence)!
    const says = text.trim()
    const was = one.school[language] ?? null
    const next = says === '' || says === one.shipped[language] ? null : says
    if (next === was) return
    const put = (words: string | null) =>
      ask(api.PUT('/api/coach/sentences', { body: { sentence, language, says: words } }))
    await notices.attempt(async () => {
      await put(next)
      notices.add(next ? 'Kept in your words.' : 'As it ships again.', 'done', async () => {
        await put(was)
        await client.invalidateQueries({ queryKey: ['coach'] })
      })
      await client.invalidateQueries({ queryKey: ['coach'] })
      await client.invalidateQueries({ queryKey: ['coupon'] })
    })
  }
</script>

<svelte:head><title>Coach · Gradus</title></svelte:head>

{#snippet row(one: Schema['CoachSentence'])}
  <li class="grid gap-2 border-t border-(--line) py-2 md:grid-cols-2">
    {#each view!.languages as language (language.id)}
      <label lang={language.id}>
        <span class="eyebrow"
          >{language.name}{one.school[language.id]
            ? ', your words'
            : Object.keys(one.school).length
              ? ', not in your words yet'
              : ''}</span
        >
        <textarea
          class="field w-full"
          rows="2"
          maxlength="200"
          disabled={!session.isLead}
          value={one.school[language.id] ?? one.shipped[language.id]}
          onchange={(event) => say(one.sentence, language.id, event.currentTarget.value)}></textarea>
      </label>
    {/each}
  </li>
{/snippet}

{#if !view}
  <Waiting error={book.error} retry={() => book.refetch()} what="The coach's book" />
{:else}
  <p class="max-w-[75ch] pb-3 text-(--soft)">
    What the coach says at a bead, before the arc and of a fault. {session.isLead
      ? 'Say it in your own words; emptied, a field says what ships again.'
      : 'The lead instructor can say it in other words.'} Numbers in braces are diameters of the electrode.
  </p>
  <label class="block pb-3">
    <span class="eyebrow">Find a sentence</span>
    <input class="field w-full max-w-xl" type="search" bind:value={looked} />
  </label>
  {#if looked.trim().length >= 2}
    <section class="sheet mb-4 p-3" aria-label="Found">
      <ul>
        {#each found as one (one.sentence)}{@render row(one)}{:else}<li>Nothing says that.</li>{/each}
      </ul>
    </section>
  {/if}
  <section class="sheet p-3" aria-label="Cards">
    <h2 class="text-xl">Cards</h2>
    {#each view.cards as card (card.id)}
      <Fold name={card.id} value={card.name}>
        <ul>
          {#each card.sentences as sentence (sentence)}{@render row(byText.get(sentence)!)}{/each}
        </ul>
        <p class="text-sm text-(--soft)">{card.source}</p>
      </Fold>
    {/each}
  </section>
  <section class="sheet mt-4 p-3" aria-label="Where schools of practice differ">
    <h2 class="text-xl">Where schools of practice differ</h2>
    {#each view.schools as question (question.id)}
      <Fold name={question.question} value={question.ways[question.default]?.name ?? ''}>
        <ul class="list-disc pl-5">
          {#each question.ways as way, index (way.name)}
            <li>
              <strong>{way.name}</strong>: {way.suits}{index === question.default ? ' (taken here)' : ''}
            </li>
          {/each}
        </ul>
        <p class="text-(--soft)">{question.why}</p>
      </Fold>
    {/each}
  </section>
{/if}
