<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import SizeChips from '$lib/parts/SizeChips.svelte'
  import { inUnits, lengthText } from '$lib/units.svelte'
  import ThumbBar from '$lib/ui/ThumbBar.svelte'
  import { FitUpDraft } from './fit-up-draft.svelte'
  import TackPanel from './TackPanel.svelte'

  type Props = {
    coupon: Schema['CouponView']
    draft: FitUpDraft
    point: string
    busy: boolean
    onpoint: (at: string) => void
    onsave: () => void
  }
  let { coupon, draft, point, busy, onpoint, onsave }: Props = $props()

  const DEGREES = [20, 22.5, 25, 30, 32.5, 35, 37.5, 40]
  const SMALL = { sixtyFourths: [0, 1, 2, 4, 6], tenths: [0, 4, 8, 16, 24] }
  const GAPS = {
    sixtyFourths: [4, 6, 8, 10, 12, 16, 18, 20, 24],
    tenths: [16, 24, 32, 40, 48, 64, 72, 80, 95],
  }
  const HOLES = {
    sixtyFourths: [40, 44, 46, 48, 50, 52, 56],
    tenths: [160, 175, 180, 190, 200, 205, 220],
  }
  const FACES = { sixtyFourths: [0, 2, 4, 6, 8, 10], tenths: [0, 8, 16, 24, 32, 40] }

  const plan = $derived(coupon.test.fitUp)
  const measure = $derived(draft.active)
  const value = $derived(draft.value(point, measure))
  const closed = $derived(coupon.closedAt != null)
  const isAngle = $derived(measure.startsWith('bevel'))
  const sizes = $derived.by(() => {
    if (measure !== 'rootOpeningMm') return measure === 'rootFaceMm' ? FACES : SMALL
    const planned = draft.planned(measure)
    // Members that lie together, a gap, or the hole of a plug.
    return planned === 0 ? SMALL : planned > 10 ? HOLES : GAPS
  })
  const troubles = $derived(
    coupon.fitUp.lines.filter((line) => line.outcome === 'mend' || line.outcome === 'warn'),
  )
  const numbers = $derived(coupon.numbers.points.find((one) => one.at === point))

  const pointName = (at: string) => (coupon.test.product === 'pipe' ? `${at} o'clock` : at)

  function take(next: number | null) {
    draft.set(point, measure, next)
    if (draft.isMeasured(point)) {
      const open = plan.points.find((at) => !draft.isMeasured(at))
      if (open) onpoint(open)
    }
  }

  function lineText(line: Schema['FitUpLine']): string {
    const where = line.at ? `${pointName(line.at)}: ` : ''
    const says =
      line.measured == null || !line.measure
        ? ''
        : line.measure.endsWith('Mm')
          ? `${lengthText(line.measured)}. `
          : `${line.measured}°. `
    return `${where}${says}${line.advice ?? ''}`
  }
</script>

{#if closed}
  <p class="text-lg">The coupon is closed; its fit-up stands as recorded.</p>
{:else}
  <div class="flex flex-col gap-3">
    {#if coupon.fitUp.id}
      <div
        class="border-l-8 px-3 py-2"
        style:border-left-color={coupon.fitUp.outcome === 'mend'
          ? 'var(--caution)'
          : coupon.fitUp.outcome === 'open'
            ? 'var(--straw)'
            : 'var(--blue)'}
        style:background={coupon.fitUp.outcome === 'mend'
          ? 'var(--caution-ground)'
          : coupon.fitUp.outcome === 'open'
            ? 'var(--straw-ground)'
            : 'var(--done-ground)'}
      >
        <p class="text-2xl leading-tight font-bold">
          {coupon.fitUp.outcome === 'go'
            ? 'Go: everything recorded is within its limits.'
            : coupon.fitUp.outcome === 'warn'
              ? 'Go, with a warning.'
              : coupon.fitUp.outcome === 'mend'
                ? 'Mend before an arc is struck:'
                : 'Recorded so far; some of it is still open.'}
        </p>
        <ul>
          {#each troubles as line, index (index)}<li class="pt-1">
              <strong>{lineText(line)}</strong> <span class="text-sm text-(--soft)">{line.source}</span>
            </li>{/each}
        </ul>
      </div>
    {/if}
    <p class="text-lg font-semibold">
      {draft.nameOf(measure)} at {pointName(point)}
      <span class="text-base font-normal text-(--soft)"
        >planned {isAngle ? `${draft.planned(measure)}°` : lengthText(draft.planned(measure))}</span
      >
    </p>
    {#if isAngle}
      <div class="flex flex-wrap gap-1.5" role="group" aria-label={draft.nameOf(measure)}>
        {#each DEGREES as degrees (degrees)}
          <button
            class="plate number px-2 text-lg"
            aria-pressed={value === degrees}
            onclick={() => take(degrees)}>{degrees}°</button
          >
        {/each}
      </div>
    {:else}
      <SizeChips label={draft.nameOf(measure)} {value} {...sizes} onpick={take} />
    {/if}
    <div class="flex flex-wrap gap-2">
      <button class="plate" onclick={() => draft.asDrawn(point)}>Rest as drawn at {pointName(point)}</button>
      <button class="plate" onclick={() => plan.points.forEach((at) => draft.asDrawn(at))}
        >Rest as drawn everywhere</button
      >
    </div>

    <TackPanel {coupon} {draft} />

    <fieldset class="flex flex-col gap-1">
      <legend class="eyebrow mb-1">Before an arc is struck</legend>
      {#each plan.questions as question (question.id)}
        <div class="flex items-center gap-2">
          <span class="grow leading-tight">{inUnits(question.text)}</span>
          <button
            class="plate px-3"
            aria-label="Yes: {inUnits(question.text)}"
            aria-pressed={draft.answers[question.id] === true}
            onclick={() => draft.answer(question.id, true)}>Yes</button
          >
          <button
            class="plate px-3"
            aria-label="No: {inUnits(question.text)}"
            aria-pressed={draft.answers[question.id] === false}
            onclick={() => draft.answer(question.id, false)}>No</button
          >
        </div>
      {/each}
    </fieldset>

    <ThumbBar>
      <button class="lead" disabled={busy} onclick={onsave}
        >{draft.complete ? 'Record the fit-up' : 'Record what is measured so far'}</button
      >
    </ThumbBar>

    {#if numbers || coupon.numbers.stripLengthMm || coupon.numbers.weldFirst}
      <p class="text-sm" role="status">
        {#if numbers?.includedAngleDeg != null}Included {numbers.includedAngleDeg}°, protractor {numbers.protractorDegA}°
          /
          {numbers.protractorDegB}°.{/if}
        {#if numbers?.gapLeftMm != null}The gap here closes to about {lengthText(numbers.gapLeftMm)}.{/if}
        {#if coupon.numbers.stripLengthMm}Strip {lengthText(coupon.numbers.stripLengthMm)} long.{/if}
        {#if coupon.numbers.weldFirst}Weld {pointName(coupon.numbers.weldFirst)} first: {coupon.test
            .product === 'pipe'
            ? 'the wider side draws shut, and the tight one opens'
            : 'the gap ahead closes, so the wider end comes last'}.{/if}
        {#if coupon.numbers.bestGapAt}The best gap belongs at {pointName(coupon.numbers.bestGapAt)}.{/if}
      </p>
    {/if}
  </div>
{/if}
