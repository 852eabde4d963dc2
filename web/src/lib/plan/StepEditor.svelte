<script lang="ts">
  import type { Schema } from '$lib/api/client'

  type Props = {
    step: Schema['StepView']
    steps: Schema['StepView'][]
    /** Tests that have no step yet. */
    without: Schema['TestRow'][]
    onsave: (steps: Schema['SaveStep'][]) => void
  }
  let { step, steps, without, onsave }: Props = $props()
  // svelte-ignore state_referenced_locally (made anew for each step)
  let after = $state(step.after.map((group) => [...group]))
  // svelte-ignore state_referenced_locally
  let strict = $state(step.strict)
  // svelte-ignore state_referenced_locally
  let why = $state(step.why)

  const plain = (one: Schema['StepView']): Schema['SaveStep'] => ({
    test: one.test,
    after: one.after,
    strict: one.strict,
    why: one.why,
  })
  const toggle = (group: number, test: string) =>
    (after[group] = after[group]!.includes(test)
      ? after[group]!.filter((one) => one !== test)
      : [...after[group]!, test])
  const save = () =>
    onsave(
      steps.map((one) =>
        one.test === step.test
          ? { test: step.test, after: after.filter((group) => group.length > 0), strict, why }
          : plain(one),
      ),
    )
  const add = (test: string) =>
    onsave([...steps.map(plain), { test, after: [[step.test]], strict: false, why: `After ${step.test}.` }])
</script>

<section class="sheet mt-2 p-3" aria-label="Step {step.test}">
  <h2 class="text-xl"><span class="number">{step.test}</span> {step.title}</h2>
  {#each after as group, index (index)}
    <fieldset class="mt-2">
      <legend class="eyebrow mb-1">{index === 0 ? 'After any one of' : 'and any one of'}</legend>
      <div class="flex flex-wrap gap-1">
        {#each steps.filter((one) => one.test !== step.test) as one (one.test)}
          <button
            class="plate px-2"
            title={one.title}
            aria-pressed={group.includes(one.test)}
            onclick={() => toggle(index, one.test)}><span class="number text-lg">{one.test}</span></button
          >
        {/each}
      </div>
    </fieldset>
  {/each}
  <div class="mt-2 flex flex-wrap items-end gap-2">
    <button class="plate" onclick={() => (after = [...after, []])}
      >{after.length ? 'And another' : 'Comes after'}</button
    >
    <button class="plate" aria-pressed={strict} onclick={() => (strict = !strict)}
      >Never without its ground</button
    >
    <label class="grow"
      ><span class="eyebrow block">Why</span>
      <input class="field w-full" maxlength="300" bind:value={why} /></label
    >
    <button class="lead" onclick={save}>Save the step</button>
    {#if without.length}
      <label class="flex items-center gap-1"
        ><span class="eyebrow">Add after it</span>
        <select class="field" value="" onchange={(event) => add(event.currentTarget.value)}>
          <option value="">choose</option>
          {#each without as test (test.id)}<option value={test.id}>{test.id} {test.title}</option>{/each}
        </select></label
      >
    {/if}
  </div>
</section>
