<script lang="ts">
  import { session } from '$lib/session.svelte'
  import type { Schema } from '$lib/api/client'

  let { setup, onsave }: { setup: Schema['SetupView']; onsave: (changed: Schema['SaveSetup']) => void } =
    $props()
  // svelte-ignore state_referenced_locally (made anew when the setup changes)
  let week = $state(structuredClone($state.snapshot(setup.week)) as Schema['WeekSetup'])
  // svelte-ignore state_referenced_locally
  let prices = $state(Object.fromEntries(setup.prices.map((price) => [price.id, price.amount])))
  // svelte-ignore state_referenced_locally
  let saw = $state({ ...setup.saw })
  const box = 'field'

  const UNITS: Record<string, string> = { kg: ', by the kg', L: ', by the litre', each: ', each' }

  const comesIn = (id: string, period: number) =>
    (week.classPeriods[id] ?? week.periodNames.map((_, at) => at)).includes(period)
  function toggle(id: string, period: number) {
    const now = week.classPeriods[id] ?? week.periodNames.map((_, at) => at)
    week.classPeriods[id] = now.includes(period)
      ? now.filter((one) => one !== period)
      : [...now, period].toSorted()
  }

  const instructors = $derived(session.view?.instructors ?? [])
  const teaches = (id: string, person: string) => week.classTeachers?.[id]?.includes(person) ?? false
  function teach(id: string, person: string) {
    const now = week.classTeachers?.[id] ?? []
    week.classTeachers = {
      ...week.classTeachers,
      [id]: now.includes(person) ? now.filter((one) => one !== person) : [...now, person],
    }
  }
  /** As many as usual where nothing is said. */
  function holds(person: string, value: string) {
    const all = { ...week.teacherHoldPoints }
    if (value.trim() === '') delete all[person]
    else all[person] = Number(value)
    week.teacherHoldPoints = all
  }
</script>

<section class="sheet p-3" aria-label="Week and prices">
  <h2 class="text-xl">The week</h2>
  <form
    class="mt-2 grid gap-3"
    novalidate
    onsubmit={(event) => {
      event.preventDefault()
      onsave({ week, prices, saw })
    }}
  >
    <div class="flex flex-wrap gap-2">
      {#each week.periodNames.keys() as index (index)}
        <div class="flex gap-1">
          <label
            ><span class="eyebrow block">Period {index + 1}</span>
            <input class="{box} w-32" maxlength="30" bind:value={week.periodNames[index]} /></label
          >
          <label
            ><span class="eyebrow block">from</span>
            <input type="time" class={box} bind:value={week.periodStarts[index]} /></label
          >
        </div>
      {/each}
    </div>
    {#each setup.classes as one (one.id)}
      <fieldset>
        <legend class="eyebrow mb-1">{one.name} comes in</legend>
        <div class="flex flex-wrap gap-1">
          {#each week.periodNames as name, period (period)}
            <button
              type="button"
              class="plate px-2"
              aria-pressed={comesIn(one.id, period)}
              onclick={() => toggle(one.id, period)}>{name}</button
            >
          {/each}
        </div>
        <p class="eyebrow mt-1 mb-1">taught by</p>
        <div class="flex flex-wrap gap-1">
          {#each instructors as person (person.id)}
            <button
              type="button"
              class="plate px-2 [overflow-wrap:anywhere]"
              aria-label="{one.name} taught by {person.name}"
              aria-pressed={teaches(one.id, person.id)}
              onclick={() => teach(one.id, person.id)}>{person.name}</button
            >
          {/each}
        </div>
      </fieldset>
    {/each}
    <div class="flex flex-wrap gap-2">
      <label
        ><span class="eyebrow block">Booth hours in a period</span>
        <input type="number" step="0.25" class="{box} w-28" bind:value={week.hoursPerPeriod} /></label
      >
      <label
        ><span class="eyebrow block">Hold points one instructor can answer in one</span>
        <input type="number" class="{box} w-28" bind:value={week.holdPointsPerPeriod} /></label
      >
      {#each instructors.filter( (person) => setup.classes.some( (one) => teaches(one.id, person.id) ) ) as person (person.id)}
        <label
          ><span class="eyebrow block [overflow-wrap:anywhere]">of these {person.name}</span>
          <input
            type="number"
            class="{box} w-28"
            placeholder={String(week.holdPointsPerPeriod)}
            value={week.teacherHoldPoints?.[person.id] ?? null}
            oninput={(event) => holds(person.id, event.currentTarget.value)}
          /></label
        >
      {/each}
      <label
        ><span class="eyebrow block">Periods for each student, least</span>
        <input type="number" class="{box} w-28" bind:value={week.minPeriods} /></label
      >
      <label
        ><span class="eyebrow block">and most</span>
        <input type="number" class="{box} w-28" bind:value={week.maxPeriods} /></label
      >
    </div>
    <h2 class="text-xl">Prices in {session.view?.school?.currency}, and the saw</h2>
    <div class="flex flex-wrap gap-2">
      {#each setup.prices as price (price.id)}
        <label class="w-52"
          ><span class="eyebrow block">{price.meaning}{UNITS[price.unit] ?? ''}</span>
          <input type="number" step="any" class="{box} w-28" bind:value={prices[price.id]} /></label
        >
      {/each}
      <label class="w-52"
        ><span class="eyebrow block">Kerf, mm</span><input
          type="number"
          step="0.1"
          class="{box} w-28"
          bind:value={saw.kerfMm}
        /></label
      >
      <label class="w-52"
        ><span class="eyebrow block">Grip, mm</span><input
          type="number"
          class="{box} w-28"
          bind:value={saw.gripMm}
        /></label
      >
      <label class="w-52"
        ><span class="eyebrow block">Shortest off-cut kept, mm</span><input
          type="number"
          class="{box} w-28"
          bind:value={saw.keepMm}
        /></label
      >
    </div>
    <button class="lead justify-self-start">Save</button>
  </form>
</section>
