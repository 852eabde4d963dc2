<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import SizeChips from '$lib/parts/SizeChips.svelte'
  import { lengthText } from '$lib/units.svelte'
  import type { FitUpDraft } from './fit-up-draft.svelte'

  let { coupon, draft }: { coupon: Schema['CouponView']; draft: FitUpDraft } = $props()

  const LENGTHS = { sixtyFourths: [16, 32, 48, 64], tenths: [65, 130, 190, 254] }
  const HOURS = ['12', '3', '6', '9']
  const plan = $derived(coupon.test.fitUp.tacks)
  const isPipe = $derived(coupon.test.product === 'pipe')
  const chosen = $derived(draft.tack === null ? null : (draft.tacks[draft.tack] ?? null))
  const counts = $derived(
    Array.from({ length: plan.maxCount - plan.minCount + 3 }, (_, index) => plan.minCount - 1 + index).filter(
      (count) => count <= plan.maxCount + 1,
    ),
  )
  const all = (key: 'feathered' | 'bridged') =>
    draft.tacks.length > 0 && draft.tacks.every((tack) => tack[key])

  function put(count: number) {
    const places = !isPipe ? coupon.test.fitUp.points : count === 2 ? ['12', '6'] : HOURS
    const like = draft.tacks[0] ?? { lengthMm: plan.minLengthMm * 2, feathered: false, bridged: plan.bridged }
    draft.setTacks(
      Array.from({ length: count }, (_, index) => ({ ...like, at: places[index % places.length]! })),
    )
  }

  const placeText = (at: string) =>
    isPipe ? at.replace(/:00$/, '') : Number.isNaN(Number(at)) ? at : lengthText(Number(at))
  const sayTack = (tack: Schema['Tack']) =>
    `${placeText(tack.at)}: ${lengthText(tack.lengthMm)}${tack.bridged ? ', bridged' : tack.feathered ? ', feathered' : ''}`
  // What is chosen below is for the tack looked at, or for all of them.
  function change(to: Partial<Schema['Tack']>) {
    if (draft.tack !== null) draft.changeTack(draft.tack, to)
    else draft.setTacks(draft.tacks.map((tack) => ({ ...tack, ...to })))
  }
</script>

<fieldset class="flex flex-col gap-1.5">
  <legend class="eyebrow mb-1">Tacks: {plan.where}</legend>
  <div class="flex flex-wrap gap-1.5">
    {#each counts as count (count)}
      <button
        class="plate number px-3 text-lg"
        aria-pressed={draft.tacks.length === count}
        aria-label="{count} tacks"
        onclick={() => put(count)}>{count}</button
      >
    {/each}
    <button
      class="plate px-3"
      aria-pressed={chosen ? chosen.feathered : all('feathered')}
      disabled={draft.tacks.length === 0}
      onclick={() => change({ feathered: !(chosen ? chosen.feathered : all('feathered')), bridged: false })}
      >Feathered</button
    >
    <button
      class="plate px-3"
      aria-pressed={chosen ? chosen.bridged : all('bridged')}
      disabled={draft.tacks.length === 0}
      onclick={() => change({ bridged: !(chosen ? chosen.bridged : all('bridged')), feathered: false })}
      >Bridged</button
    >
  </div>
  {#if draft.tacks.length}
    <div class="flex flex-wrap gap-1.5" role="group" aria-label="Each tack">
      {#each draft.tacks as tack, index (index)}
        <button
          class="plate px-2 text-sm"
          aria-pressed={draft.tack === index}
          onclick={() => (draft.tack = draft.tack === index ? null : index)}>{sayTack(tack)}</button
        >
      {/each}
      {#if draft.tack !== null}
        <button class="plate px-2 text-sm" onclick={() => draft.removeTack(draft.tack!)}
          >Remove this tack</button
        >
      {/if}
    </div>
    <SizeChips
      label={chosen ? `Tack length at ${placeText(chosen.at)}` : 'Tack length'}
      value={chosen?.lengthMm ?? draft.tacks[0]!.lengthMm}
      {...LENGTHS}
      onpick={(mm) => mm && change({ lengthMm: mm })}
    />
  {:else}
    <p class="text-sm text-(--soft)">Say how many, or tap their places on the {isPipe ? 'ring' : 'strip'}.</p>
  {/if}
  {#if draft.tacks.some((tack) => tack.bridged)}
    <p class="text-sm text-(--soft)">Cut each bridge out as the root comes to it; never weld over one.</p>
  {/if}
</fieldset>
