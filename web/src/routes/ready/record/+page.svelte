<script lang="ts">
  import { changed } from '$lib/changed'
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import ModelPanel from '$lib/parts/ModelPanel.svelte'
  import ReliabilityChart from '$lib/parts/ReliabilityChart.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { recordQuery } from '$lib/queries'
  import { shortDay } from '$lib/weeks'
  import { percent } from '$lib/words'

  const client = useQueryClient()
  const record = recordQuery()

  async function put(result: Schema['ResultView']) {
    const { id, studentId, testId, day, passed, note } = result
    const body = { studentId, testId, day, passed, note }
    await notices.attempt(() => ask(api.PUT('/api/results/{id}', { params: { path: { id } }, body })))
    await changed(client, 'sitting')
  }

  async function remove(result: Schema['ResultView']) {
    const path = { id: result.id }
    await notices.attempt(async () => {
      await ask(api.DELETE('/api/results/{id}', { params: { path } }))
      notices.add(`The result of ${result.studentName} is taken back.`, 'done', () => put(result))
      await changed(client, 'sitting')
    })
  }
</script>

<svelte:head><title>Track record · Gradus</title></svelte:head>

<div class="flex flex-wrap items-center gap-3 pt-4 pb-3">
  <h1 class="text-3xl">Did it come true?</h1>
  <a class="plate ml-auto" href="/ready">Who is ready</a>
</div>

{#if !record.data}
  <Waiting error={record.error} retry={() => record.refetch()} what="The track record" />
{:else}
  {@const view = record.data}
  <div class="grid items-start gap-4 lg:grid-cols-[1.2fr_1fr]">
    <section class="sheet p-4" aria-labelledby="said">
      <h2 id="said" class="text-xl">What was said, and what came</h2>
      <ReliabilityChart record={view} />
    </section>
    <ModelPanel />
    <section class="sheet p-4 lg:col-span-2" aria-labelledby="latest">
      <h2 id="latest" class="text-xl">Latest sittings</h2>
      <ul>
        {#each view.latest as result (result.id)}
          <li class="flex flex-wrap items-center gap-x-3 border-t py-1 first:border-t-0">
            <span class="w-24 text-(--soft)">{shortDay(result.day)}</span>
            <a
              class="min-w-44 font-semibold underline decoration-(--line) underline-offset-4"
              href="/students/{result.studentId}/decide/{result.testId}">{result.studentName}</a
            >
            <span class="number w-12 text-lg">{result.testId}</span>
            <strong class="w-28" class:text-(--caution)={!result.passed}
              >{result.passed ? 'Passed' : 'Not passed'}</strong
            >
            <span class="text-(--soft)"
              >{result.coupons === 0
                ? 'no coupon before'
                : `said ${percent(result.said.mean)}, ${percent(result.said.lower)} to ${percent(result.said.upper)}`}</span
            >
            {#if result.note}<span class="max-w-full break-words">{result.note}</span>{/if}
            {#if result.sittingId}<a
                class="bare ml-auto"
                href="/sittings/{result.sittingId}"
                aria-label="The sitting of {result.studentName}, {result.testId}, {shortDay(result.day)}"
                >Its sitting</a
              >
            {:else}<button
                class="plate ml-auto"
                aria-label="Take back the result of {result.studentName}, {result.testId}, {shortDay(
                  result.day,
                )}"
                onclick={() => remove(result)}>Take back</button
              >{/if}
          </li>
        {:else}<li class="text-(--soft)">No result was entered yet.</li>{/each}
      </ul>
    </section>
  </div>
{/if}
