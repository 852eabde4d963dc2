<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { changed } from '$lib/changed'
  import { notices } from '$lib/notices.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import CsvImport from '$lib/plan/CsvImport.svelte'
  import { session } from '$lib/session.svelte'
  import { shortDay } from '$lib/weeks'
  import ClassForm from './ClassForm.svelte'
  import ClassList from './ClassList.svelte'
  import EndClass from './EndClass.svelte'

  const client = useQueryClient()
  const classes = createQuery(() => ({
    queryKey: ['classes', 'all'],
    queryFn: () => ask(api.GET('/api/classes', { params: { query: { ended: true } } })),
  }))
  const meeting = $derived((classes.data ?? []).filter((one) => !one.endedAt))
  const over = $derived((classes.data ?? []).filter((one) => one.endedAt))
  let chosen = $state<string | null>(null)
  let editing = $state<string | null>(null)
  let ending = $state<Schema['ClassView'] | null>(null)
  const shown = $derived(meeting.find((one) => one.id === chosen) ?? meeting[0])
  const days = (one: Schema['ClassView']) =>
    one.meetsOn.map((day) => day[0]!.toUpperCase() + day.slice(1, 3)).join(' ')

  async function save(id: string, body: Schema['SaveClass']) {
    const done = await notices.attempt(() =>
      ask(api.PUT('/api/classes/{id}', { params: { path: { id } }, body })),
    )
    if (!done) return
    editing = null
    chosen = id
    await changed(client, 'school')
  }
</script>

{#if !classes.data}
  <Waiting error={classes.error} retry={() => classes.refetch()} what="The classes" />
{:else}
  <div class="grid items-start gap-3 lg:grid-cols-2">
    <div class="flex flex-col gap-3">
      <section class="sheet p-3" aria-label="Classes">
        <div class="flex flex-wrap items-center gap-3">
          <h2 class="mr-auto text-xl">Classes that meet</h2>
          {#if session.isLead}<button class="plate" onclick={() => (editing = newId())}>Add a class</button
            >{/if}
        </div>
        <ul class="mt-2">
          {#each meeting as one (one.id)}
            <li class="border-t py-2 first:border-t-0">
              {#if editing === one.id}
                <ClassForm
                  group={one}
                  onsave={(body) => save(one.id, body)}
                  oncancel={() => (editing = null)}
                />
              {:else}
                <div class="flex flex-wrap items-center gap-2">
                  <button
                    class="plate min-w-0 grow justify-start"
                    aria-pressed={shown?.id === one.id}
                    onclick={() => (chosen = one.id)}
                    ><span class="truncate">{one.name}</span>
                    <span class="ml-auto text-sm font-normal whitespace-nowrap opacity-80"
                      >{days(one)}; {one.students}
                      {one.students === 1 ? 'student' : 'students'}{one.termEnds
                        ? `; to ${shortDay(one.termEnds)}`
                        : ''}</span
                    ></button
                  >
                  {#if session.isLead}
                    <button class="plate" aria-label="Change {one.name}" onclick={() => (editing = one.id)}
                      >Change</button
                    >
                    <button
                      class="plate"
                      aria-label="End {one.name}"
                      disabled={meeting.length < 2}
                      title={meeting.length < 2 ? 'Add the next class first' : undefined}
                      onclick={() => (ending = one)}>End</button
                    >
                  {/if}
                </div>
              {/if}
            </li>
          {/each}
          {#if editing && !meeting.some((one) => one.id === editing)}
            <li class="border-t py-2">
              <ClassForm onsave={(body) => save(editing!, body)} oncancel={() => (editing = null)} />
            </li>
          {/if}
        </ul>
        {#if over.length}
          <p class="mt-2 border-t pt-2 text-sm text-(--soft)">
            Over: {over.map((one) => one.name).join(', ')}.
          </p>
        {/if}
      </section>
      {#if session.isLead}
        <CsvImport
          path="/api/students/import"
          touches={['student', 'school']}
          title="A class list from a file"
          columns="name, class, test, hand (empty for right)"
        />
      {/if}
    </div>
    {#if shown}{#key shown.id}<ClassList group={shown} />{/key}{/if}
  </div>
  <EndClass bind:group={ending} others={meeting.filter((one) => one.id !== ending?.id)} />
{/if}
