<script lang="ts">
  import { untrack } from 'svelte'
  import type { Schema } from '$lib/api/client'
  import type { Tell } from './coupon-words'
  import SizeChips from '$lib/parts/SizeChips.svelte'
  import LabPanel from './LabPanel.svelte'
  import VerdictMark from '$lib/parts/VerdictMark.svelte'
  import { inUnits, lengthText } from '$lib/units.svelte'
  import { spaced } from '$lib/words'
  import { specimenSays, SpecimenDraft, type Seen } from './specimen-draft.svelte'

  type Props = {
    coupon: Schema['CouponView']
    /** The specimen that is tested now: chosen here, or on the drawing. */
    chosen: number | null
    ontell: Tell
  }
  let { coupon, chosen = $bindable(), ontell }: Props = $props()

  const SIZES = { sixtyFourths: [1, 2, 4, 6, 8, 12, 16], tenths: [4, 8, 16, 24, 32, 48, 64] }
  const LEGS = { sixtyFourths: [8, 10, 12, 16, 20, 24, 32], tenths: [32, 40, 50, 60, 80, 95, 127] }
  const FILM: [Schema['IndicationKind'], string][] = [
    ['crack', 'Crack'],
    ['incompleteFusion', 'Incomplete fusion'],
    ['incompletePenetration', 'Incomplete penetration'],
    ['elongatedSlag', 'Slag line'],
    ['rounded', 'Rounded'],
  ]
  let draft = $state<SpecimenDraft | null>(null)
  const tested = $derived(new Map(coupon.life.specimens.map((one) => [one.specimen, one.verdict])))
  const threatened = $derived(new Set(coupon.findings.flatMap((one) => one.threatens)))

  $effect.pre(() => {
    const index = chosen
    // What is entered stays when the coupon is read anew.
    untrack(() => {
      // Where the test was put right meanwhile, there may be no such specimen.
      const one = index == null ? undefined : coupon.test.specimens[index]
      draft = index != null && one ? new SpecimenDraft(index, one.kind, coupon.test) : null
    })
  })
  function keep() {
    if (!draft) return
    ontell('specimenTested', draft.toBody(), `Specimen ${draft.index + 1} kept.`)
    chosen = null
  }
</script>

{#snippet yes(label: string, seen: Seen, key: keyof Seen)}
  <button
    class="plate px-2"
    aria-pressed={seen[key] === true}
    onclick={() => ((seen[key] as boolean) = !seen[key])}>{label}</button
  >
{/snippet}

<section class="border-t pt-2" aria-label="Specimens">
  <p class="eyebrow">Cut and break</p>
  <div class="flex flex-wrap gap-1.5">
    {#each coupon.test.specimens as one, index (index)}
      {@const verdict = tested.get(index)}
      <button
        class="plate px-2"
        aria-pressed={chosen === index}
        onclick={() => (chosen = chosen === index ? null : index)}
        >{spaced(one.kind)}{one.clock ? ` ${one.clock}` : ''}{#if threatened.has(index)}<span
            class="text-sm text-(--caution)">a finding lies in it</span
          >{/if}{#if verdict}<VerdictMark kind={verdict.kind} />{/if}</button
      >
    {/each}
  </div>
  {#if draft}
    <div
      class="mt-2 flex flex-col gap-2 border-l-4 border-(--straw) pl-3"
      role="group"
      aria-label="What was seen"
      {@attach (group) => group.scrollIntoView({ block: 'center' })}
    >
      {#if draft.form === 'bend'}
        <div class="flex flex-wrap gap-1.5">
          {@render yes('at a corner', draft.seen, 'corner')}
          {@render yes('slag or fusion shows', draft.seen, 'slag')}
        </div>
        <SizeChips label="Opened" value={null} {...SIZES} onpick={(mm) => mm && draft!.addOpening(mm)} />
      {:else if draft.form === 'nickBreak'}
        <div class="flex flex-wrap gap-1.5">
          {@render yes('penetrated through', draft.seen, 'penetrated')}
          {@render yes('fused through', draft.seen, 'fused')}
        </div>
        <SizeChips label="Pore" value={null} {...SIZES} onpick={(mm) => mm && draft!.addPore(mm)} />
        <div class="flex flex-wrap items-center gap-1.5" role="group" aria-label="Pores, share of the face">
          <span class="eyebrow mr-1">All pores</span>
          {#each [0, 1, 2, 5, 10] as percent (percent)}
            <button
              class="plate number px-2"
              aria-pressed={draft.seen.porePercent === percent}
              onclick={() => (draft!.seen.porePercent = percent)}>{percent} %</button
            >
          {/each}
        </div>
        <SizeChips
          label="Slag deep"
          value={draft.seen.depthMm}
          {...SIZES}
          onpick={(mm) => (draft!.seen.depthMm = mm)}
        />
        <SizeChips label="Slag long" value={null} {...SIZES} onpick={(mm) => mm && draft!.addSlag(mm)} />
      {:else if draft.form === 'filletBreak'}
        <div class="flex flex-wrap gap-1.5">
          {@render yes('bent flat', draft.seen, 'bentFlat')}
          {@render yes('fused to the root', draft.seen, 'fused')}
          {@render yes('crack', draft.seen, 'crack')}
        </div>
        <SizeChips
          label="Pore or inclusion"
          value={null}
          {...SIZES}
          onpick={(mm) => mm && draft!.addPore(mm)}
        />
      {:else if draft.form === 'macro'}
        <div class="flex flex-wrap gap-1.5">
          {@render yes('fused through', draft.seen, 'fused')}
          {@render yes('crack', draft.seen, 'crack')}
        </div>
        {#each draft.macroMeasures as [key, label] (key)}
          <SizeChips
            {label}
            value={draft.sizes[key] ?? null}
            {...key === 'legAMm' || key === 'legBMm' || key === 'faceWidthMm' ? LEGS : SIZES}
            onpick={(mm) => (draft!.sizes[key] = mm)}
          />
        {/each}
      {:else}
        <div class="flex flex-wrap gap-1.5">
          {#each FILM as [kind, name] (kind)}
            <button class="plate px-2" aria-pressed={draft.film === kind} onclick={() => (draft!.film = kind)}
              >{name}</button
            >
          {/each}
        </div>
        <SizeChips label="Long" value={null} {...SIZES} onpick={(mm) => mm && draft!.addIndication(mm)} />
      {/if}
      {#if draft.marks.length}
        <ul class="flex flex-wrap gap-1.5">
          {#each draft.marks as mark, index (index)}
            <li>
              <button
                class="plate px-2 text-sm"
                aria-label="Remove {mark}"
                onclick={() => draft!.remove(index)}>{mark} ×</button
              >
            </li>
          {/each}
        </ul>
      {/if}
      <button class="lead" onclick={keep}>{specimenSays(draft)}</button>
    </div>
  {/if}
  {#each coupon.life.specimens as one (one.specimen)}
    {#each one.verdict.reasons as reason, index (index)}
      <p class="text-sm">
        {spaced(one.kind)}: {inUnits(reason.rule)}
        {reason.limit != null && reason.measure?.endsWith('Mm') ? `Limit ${lengthText(reason.limit)}.` : ''}
        <span class="text-(--soft)"
          >{reason.source}{reason.fromMemory ? '; check against your edition' : ''}</span
        >
      </p>
    {/each}
  {/each}
  {#if !coupon.drillId}<LabPanel {coupon} />{/if}
</section>
