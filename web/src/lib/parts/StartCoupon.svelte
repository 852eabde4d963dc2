<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import Dialog from '$lib/ui/Dialog.svelte'
  import { goto } from '$app/navigation'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import TestPicker from '$lib/parts/TestPicker.svelte'
  import { boothOffersQuery, floorQuery, profileNames, testsQuery } from '$lib/queries'
  import { inUnits } from '$lib/units.svelte'

  type Props = {
    open: boolean
    studentId?: string | null
    boothId?: string | null
    testId?: string | null
  }
  let { open = $bindable(), studentId = null, boothId = null, testId = null }: Props = $props()

  const client = useQueryClient()
  const tests = testsQuery()
  const floor = floorQuery()
  let chosenStudent = $state<string | null>(null)
  let chosenTest = $state<string | null>(null)
  let chosenBooth = $state<string | null>(null)
  let drill = $state<string | null>(null)
  let asTest = $state(false)
  let variants = $state<Record<string, string>>({})
  let judgedBy = $state<string | null>(null)
  let id = newId()
  const profileName = profileNames()

  const student = $derived(floor.data?.students.find((one) => one.id === (chosenStudent ?? studentId)))
  const test = $derived(tests.data?.find((one) => one.id === (chosenTest ?? testId ?? student?.targetTestId)))
  const takenBooths = $derived(new Set((floor.data?.students ?? []).map((one) => one.open?.booth)))
  const offers = boothOffersQuery(() => (test ? { testId: test.id, drillId: drill } : null))
  const whyNot = (one: Schema['BoothOffer']) => one.why ?? (takenBooths.has(one.number) ? 'in use' : null)
  const able = $derived((offers.data ?? []).filter((one) => !whyNot(one)))
  const booth = $derived(
    [chosenBooth, boothId].find((id) => (offers.data ?? []).some((one) => one.id === id && !one.why)) ??
      able[0]?.id ??
      null,
  )
  const idle = $derived((floor.data?.students ?? []).filter((one) => !one.open))

  $effect(() => {
    if (!open) {
      chosenStudent = chosenTest = chosenBooth = drill = judgedBy = null
      asTest = false
      variants = {}
      id = newId()
    }
  })

  async function start() {
    if (!student || !test) return
    const done = await notices.attempt(() =>
      ask(
        api.PUT('/api/coupons/{couponId}', {
          params: { path: { couponId: id } },
          body: {
            studentId: student.id,
            testId: test.id,
            drillId: drill,
            variants,
            boothId: booth,
            asTest,
            judgedBy,
          },
        }),
      ),
    )
    if (!done) return
    const started = id
    open = false
    await client.invalidateQueries({ queryKey: ['floor'] })
    await goto(`/coupons/${started}`)
  }
</script>

<Dialog bind:open title="Start a coupon" size="lg">
  <div class="flex flex-col gap-4">
    {#if !studentId}
      <fieldset>
        <legend class="eyebrow mb-1">Student</legend>
        <div class="flex flex-wrap gap-1.5">
          {#each idle as one (one.id)}
            <button
              class="plate"
              aria-pressed={student?.id === one.id}
              onclick={() => (chosenStudent = one.id)}>{one.name}</button
            >
          {:else}
            <p class="text-(--soft)">Everyone has a coupon in work.</p>
          {/each}
        </div>
      </fieldset>
    {:else}
      <p class="text-lg"><strong>{student?.name}</strong></p>
    {/if}
    <fieldset>
      <legend class="eyebrow mb-1">Test</legend>
      <TestPicker
        tests={tests.data ?? []}
        chosen={test?.id ?? null}
        onpick={(id) => {
          chosenTest = id
          drill = judgedBy = null
          variants = {}
        }}
      />
    </fieldset>
    {#if test}
      <fieldset>
        <legend class="eyebrow mb-1">What of it</legend>
        <div class="flex flex-wrap gap-1.5">
          <button class="plate" aria-pressed={drill === null} onclick={() => (drill = null)}
            >Full coupon</button
          >
          {#each test.drills as one (one.id)}
            <button class="plate" aria-pressed={drill === one.id} onclick={() => (drill = one.id)}
              >{one.name}</button
            >
          {/each}
        </div>
      </fieldset>
      <div class="grid gap-3 md:grid-cols-2">
        {#each test.variants as group (group.id)}
          <fieldset>
            <legend class="eyebrow mb-1">{group.name}</legend>
            <div class="flex flex-wrap gap-1.5">
              {#each group.options as option (option.id)}
                <button
                  class="plate"
                  aria-pressed={(variants[group.id] ?? group.options[0]?.id) === option.id}
                  onclick={() => (variants = { ...variants, [group.id]: option.id })}
                  >{inUnits(option.name)}</button
                >
              {/each}
            </div>
          </fieldset>
        {/each}
        <fieldset>
          <legend class="eyebrow mb-1">How</legend>
          <div class="flex flex-wrap gap-1.5">
            <button class="plate" aria-pressed={!asTest} onclick={() => (asTest = false)}>Coached</button>
            <button class="plate" aria-pressed={asTest} onclick={() => (asTest = true)}
              >As under test, unaided</button
            >
          </div>
        </fieldset>
        {#if test.judgeableBy.length > 1}
          <label>
            <span class="eyebrow mb-1 block">Judged by</span>
            <select
              class="field w-full"
              value={judgedBy ?? test.judgeableBy[0]}
              onchange={(event) => (judgedBy = event.currentTarget.value)}
            >
              {#each test.judgeableBy as one (one)}<option value={one}>{profileName(one)}</option>{/each}
            </select>
          </label>
        {/if}
        <label>
          <span class="eyebrow mb-1 block">Booth</span>
          <select
            class="field w-full"
            value={booth}
            onchange={(event) => (chosenBooth = event.currentTarget.value)}
          >
            {#each offers.data ?? [] as one (one.id)}
              <option value={one.id} disabled={one.why != null}
                >Booth {one.number}{whyNot(one) ? ` (${whyNot(one)})` : ''}</option
              >
            {/each}
          </select>
        </label>
      </div>
    {/if}
    <button class="lead self-start text-lg" disabled={!student || !test} onclick={start}
      >Start the coupon</button
    >
  </div>
</Dialog>
