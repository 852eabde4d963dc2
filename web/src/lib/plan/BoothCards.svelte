<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { feedText } from '$lib/bench/pass-words'
  import { fitUpMeasureName, toleranceText } from '$lib/library/text'
  import { inUnits, lengthText } from '$lib/units.svelte'
  import { processName, stageName, techniqueName } from '$lib/words'
  import { hours } from '$lib/weeks'

  type Props = { cards: Schema['BoothCard'][]; codes: Record<string, string>; when: (slot: number) => string }
  let { cards, codes, when }: Props = $props()
  const image = (svg: string) => `data:image/svg+xml;utf8,${encodeURIComponent(svg)}`
  const tacks = (plan: Schema['TackPlan']) =>
    `${plan.minCount === plan.maxCount ? plan.minCount : `${plan.minCount} to ${plan.maxCount}`} tacks, ${lengthText(plan.minLengthMm)} to ${lengthText(plan.maxLengthMm)}${plan.feathered ? ', feathered' : ''}. ${inUnits(plan.where)}`
</script>

{#each cards as card (`${card.studentId} ${card.slot}`)}
  <section class="booth-card sheet mb-3 p-4" aria-label="{card.studentName}, {when(card.slot)}">
    <div class="flex items-start gap-4">
      <p class="number shrink-0 text-6xl leading-none whitespace-nowrap" aria-label="Booth {card.booth}">
        {card.booth}
      </p>
      <div class="min-w-0 grow">
        <h2 class="text-2xl leading-tight [overflow-wrap:anywhere]">{card.studentName}</h2>
        <p class="text-lg">{when(card.slot)}: <strong>{card.name}</strong></p>
        <p>
          <span class="number text-xl">{card.testId}</span>
          {card.title}, {card.position}{card.pipe ? `, ${inUnits(card.pipe)}` : ''}, {lengthText(
            card.thicknessMm,
          )}{card.variants.length ? `; ${inUnits(card.variants.join(', '))}` : ''}
        </p>
      </div>
      <img
        src={image(codes[card.studentId] ?? '')}
        alt="Opens the page of {card.studentName}"
        class="h-24 w-24 shrink-0 bg-white"
      />
    </div>
    {#if card.parts.length > 1}
      <ol class="mt-2 flex flex-wrap gap-x-6 text-lg">
        {#each card.parts as part, index (part.drillId)}
          <li>
            <span class="number">{index + 1}</span>
            {part.name}{part.times > 1 ? `, ${part.times} times` : ''}
            <span class="text-(--soft)">{hours(part.minutes)}</span>
          </li>
        {/each}
      </ol>
    {/if}
    <table class="ledger mt-2 w-full">
      <thead>
        <tr>
          <th class="text-left">Pass</th>
          <th class="text-left">Electrode or wire</th>
          <th class="text-left">Start at</th>
          <th class="text-left">Beads</th>
        </tr>
      </thead>
      <tbody>
        {#each card.passes as { card: pass, layers, beads }, index (index)}
          <tr>
            <th scope="row" class="text-left"
              >{stageName(pass.stage)}<span class="block text-sm font-normal"
                >{processName(pass.process)}, {techniqueName(pass.technique).toLowerCase()}, {pass.progression}</span
              ></th
            >
            <td
              >{pass.electrodeClass}
              {inUnits(`${pass.diameterText} in`)}, {pass.polarity.toUpperCase()}{pass.gas
                ? `, ${pass.gas}`
                : ''}</td
            >
            <td
              ><span class="number text-xl">{pass.amps} A</span>{pass.volts
                ? `, ${pass.volts} V`
                : ''}{pass.wireFeedMmPerMin ? `, ${feedText(pass.wireFeedMmPerMin)}` : ''}<span
                class="block text-sm"
                >{pass.clean
                  ? 'came out clean before'
                  : pass.fromLast
                    ? 'as last time'
                    : 'middle of the range'}</span
              ></td
            >
            <td>{beads} in {layers} {layers === 1 ? 'layer' : 'layers'}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    <div class="mt-2 grid gap-x-6 gap-y-2 sm:grid-cols-2">
      {#if card.fitUp.length}
        <div>
          <h3 class="eyebrow">Fit-up</h3>
          <ul>
            {#each card.fitUp as tolerance (tolerance.measure)}
              <li>
                {fitUpMeasureName(tolerance.measure)}
                <span class="number text-lg">{toleranceText(tolerance)}</span>
              </li>
            {/each}
            {#if card.tacks}<li>{tacks(card.tacks)}</li>{/if}
          </ul>
        </div>
      {/if}
      <div>
        {#if card.holdPoints.length}
          <h3 class="eyebrow">Call before you go on</h3>
          <ul class="list-disc pl-5">
            {#each card.holdPoints as point (point)}<li>{point}</li>{/each}
          </ul>
        {/if}
        {#if card.cues.length}
          <h3 class="eyebrow mt-2">Mind this</h3>
          <ul class="list-disc pl-5">
            {#each card.cues as cue (cue)}<li>{cue}</li>{/each}
          </ul>
        {/if}
        <h3 class="eyebrow mt-2">Cautions</h3>
        <ul class="list-disc pl-5 text-sm">
          {#each card.cautions as caution (caution)}<li>{inUnits(caution)}</li>{/each}
        </ul>
      </div>
    </div>
  </section>
{:else}
  <p class="sheet p-6 text-center">Nothing is planned any more for this week.</p>
{/each}

<style>
  .booth-card {
    break-inside: avoid;
  }
  @media print {
    .booth-card {
      break-after: page;
    }
  }
</style>
