<script lang="ts">
  import Dialog from '$lib/ui/Dialog.svelte'
  import type { Schema } from '$lib/api/client'
  import TestPicker from '$lib/parts/TestPicker.svelte'
  import { floorQuery, profileNames, testsQuery } from '$lib/queries'
  import { inUnits } from '$lib/units.svelte'

  type Props = {
    open: boolean
    coupon: Schema['CouponView']
    onput: (correction: Partial<Schema['CouponCorrection']>) => void
  }
  let { open = $bindable(), coupon, onput }: Props = $props()

  const tests = testsQuery()
  const floor = floorQuery()
  const closed = $derived(coupon.closedAt != null)
  let changed = $state<Partial<Schema['CouponCorrection']>>({})

  $effect(() => {
    if (!open) changed = {}
  })

  const testId = $derived(changed.testId ?? coupon.test.id)
  const test = $derived(tests.data?.find((one) => one.id === testId))
  const drill = $derived(changed.full ? null : (changed.drillId ?? coupon.drillId ?? null))
  const asTest = $derived(changed.asTest ?? coupon.asTest)
  const optionOf = (group: Schema['VariantGroup']) => {
    const said = changed.variants?.[group.id] ?? coupon.variants[group.id]
    return group.options.some((one) => one.id === said) ? said : group.options[0]?.id
  }
  const profileName = profileNames()
  const judgedBy = $derived(
    changed.judgedBy ?? (changed.testId ? test?.judgeableBy[0] : coupon.test.profileId),
  )
  const nothing = $derived(Object.keys(changed).length === 0)
</script>

<Dialog bind:open title="Put right what this coupon is" size="lg">
  <div class="flex flex-col gap-3">
    {#if closed}
      <p>
        Its verdict was signed for this test. Open the coupon again to change the test or how it was made.
      </p>
    {:else}
      <fieldset>
        <legend class="eyebrow mb-1">Test</legend>
        <TestPicker
          tests={tests.data ?? []}
          chosen={testId}
          onpick={(id) => (changed = { ...changed, testId: id })}
        />
      </fieldset>
      {#if test}
        <fieldset>
          <legend class="eyebrow mb-1">What of it</legend>
          <div class="flex flex-wrap gap-1.5">
            <button
              class="plate"
              aria-pressed={drill === null}
              onclick={() => (changed = { ...changed, full: true, drillId: null })}>Full coupon</button
            >
            {#each test.drills as one (one.id)}
              <button
                class="plate"
                aria-pressed={drill === one.id}
                onclick={() => (changed = { ...changed, drillId: one.id, full: null })}>{one.name}</button
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
                    aria-pressed={optionOf(group) === option.id}
                    onclick={() =>
                      (changed = {
                        ...changed,
                        variants: { ...(changed.variants ?? {}), [group.id]: option.id },
                      })}>{inUnits(option.name)}</button
                  >
                {/each}
              </div>
            </fieldset>
          {/each}
          {#if test.judgeableBy.length > 1}
            <fieldset>
              <legend class="eyebrow mb-1">Judged by</legend>
              <div class="flex flex-wrap gap-1.5">
                {#each test.judgeableBy as id (id)}
                  <button
                    class="plate"
                    aria-pressed={judgedBy === id}
                    onclick={() => (changed = { ...changed, judgedBy: id })}>{profileName(id)}</button
                  >
                {/each}
              </div>
            </fieldset>
          {/if}
          <fieldset>
            <legend class="eyebrow mb-1">How</legend>
            <div class="flex flex-wrap gap-1.5">
              <button
                class="plate"
                aria-pressed={!asTest}
                onclick={() => (changed = { ...changed, asTest: false })}>Coached</button
              >
              <button
                class="plate"
                aria-pressed={asTest}
                onclick={() => (changed = { ...changed, asTest: true })}>As under test, unaided</button
              >
            </div>
          </fieldset>
        </div>
      {/if}
    {/if}
    <div class="grid gap-3 md:grid-cols-2">
      <label>
        <span class="eyebrow mb-1 block">Student</span>
        <select
          class="field w-full"
          value={changed.studentId ?? coupon.student.id}
          onchange={(event) => (changed = { ...changed, studentId: event.currentTarget.value })}
        >
          {#if !floor.data?.students.some((one) => one.id === coupon.student.id)}
            <option value={coupon.student.id}>{coupon.student.name}</option>
          {/if}
          {#each floor.data?.students ?? [] as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
        </select>
      </label>
      <label>
        <span class="eyebrow mb-1 block">Booth</span>
        <select
          class="field w-full"
          value={changed.boothId ?? coupon.boothId ?? ''}
          onchange={(event) => (changed = { ...changed, boothId: event.currentTarget.value })}
        >
          {#if !coupon.boothId}<option value="">none</option>{/if}
          {#each floor.data?.booths ?? [] as one (one.id)}<option value={one.id}>Booth {one.number}</option
            >{/each}
        </select>
      </label>
    </div>
    <button
      class="lead self-start text-lg"
      disabled={nothing}
      onclick={() => {
        const correction = changed
        open = false
        onput(correction)
      }}>Put it right</button
    >
  </div>
</Dialog>
