<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { lengthText, MM_PER_INCH, units } from '$lib/units.svelte'
  import { techniqueName, techniques } from '$lib/words'
  import { diametersOf, fillersOf } from './fillers'
  import { feedText } from './pass-words'

  let { card, onchange }: { card: Schema['PassCard']; onchange: (card: Schema['PassCard']) => void } =
    $props()

  const range = (span: Schema['Span'] | null | undefined, unit: string) =>
    span ? `${span.min} to ${span.max} ${unit}` : ''
  const outside = (value: number | null, span: Schema['Span'] | null | undefined) =>
    value != null && span != null && (value < span.min || value > span.max)
</script>

{#snippet stepper(
  label: string,
  shown: string,
  hint: string,
  warn: boolean,
  down: () => void,
  up: () => void,
)}
  <div class="flex items-center gap-2">
    <span class="w-20 font-semibold">{label}</span>
    <button class="plate number text-2xl" aria-label="Less {label}" onclick={down}>−</button>
    <span class="number w-28 text-center text-2xl" class:text-(--caution)={warn}>{shown}</span>
    <button class="plate number text-2xl" aria-label="More {label}" onclick={up}>+</button>
    <span class="text-sm text-(--soft)">{hint}{warn ? ': outside' : ''}</span>
  </div>
{/snippet}

<div class="mt-3 flex flex-col gap-2">
  {@render stepper(
    'Amps',
    `${card.amps} A`,
    range(card.ranges.amps, 'A'),
    outside(card.amps, card.ranges.amps),
    () => onchange({ ...card, amps: Math.max(1, card.amps - 5) }),
    () => onchange({ ...card, amps: card.amps + 5 }),
  )}
  {#if card.volts != null}
    {@render stepper(
      'Volts',
      `${card.volts.toFixed(1)} V`,
      range(card.ranges.volts, 'V'),
      outside(card.volts, card.ranges.volts),
      () => onchange({ ...card, volts: card.volts! - 0.5 }),
      () => onchange({ ...card, volts: card.volts! + 0.5 }),
    )}
  {/if}
  {#if card.wireFeedMmPerMin != null}
    {@const span = card.ranges.wireFeedMmPerMin}
    {@render stepper(
      'Feed',
      feedText(card.wireFeedMmPerMin),
      span ? `${feedText(span.min)} to ${feedText(span.max)}` : '',
      outside(card.wireFeedMmPerMin, span),
      () => onchange({ ...card, wireFeedMmPerMin: card.wireFeedMmPerMin! - 5 * MM_PER_INCH }),
      () => onchange({ ...card, wireFeedMmPerMin: card.wireFeedMmPerMin! + 5 * MM_PER_INCH }),
    )}
  {/if}
  <div class="flex flex-wrap items-center gap-2">
    <label>
      <span class="eyebrow block">Rod or wire</span>
      <select
        class="field"
        value={card.electrodeClass}
        onchange={(event) => onchange({ ...card, electrodeClass: event.currentTarget.value })}
      >
        {#each fillersOf(card) as filler (filler)}<option>{filler}</option>{/each}
      </select>
    </label>
    <label>
      <span class="eyebrow block">Size</span>
      <select
        class="field"
        value={card.diameterMm}
        onchange={(event) => {
          const size = diametersOf(card)[event.currentTarget.selectedIndex]!
          onchange({ ...card, diameterMm: size.mm, diameterText: size.text })
        }}
      >
        {#each diametersOf(card) as size (size.mm)}<option value={size.mm}
            >{units.unit === 'in' ? `${size.text} in` : lengthText(size.mm)}</option
          >{/each}
      </select>
    </label>
    <label>
      <span class="eyebrow block">Polarity</span>
      <select
        class="field"
        value={card.polarity}
        onchange={(event) => onchange({ ...card, polarity: event.currentTarget.value as Schema['Polarity'] })}
      >
        {#each ['dcep', 'dcen', 'ac'] as polarity (polarity)}<option value={polarity}
            >{polarity.toUpperCase()}</option
          >{/each}
      </select>
    </label>
    <label>
      <span class="eyebrow block">Technique</span>
      <select
        class="field"
        value={card.technique}
        onchange={(event) =>
          onchange({ ...card, technique: event.currentTarget.value as Schema['BeadTechnique'] })}
      >
        {#each techniques as technique (technique)}<option value={technique}
            >{techniqueName(technique)}</option
          >{/each}
      </select>
    </label>
    <label>
      <span class="eyebrow block">Progression</span>
      <select
        class="field"
        value={card.progression}
        onchange={(event) =>
          onchange({ ...card, progression: event.currentTarget.value as Schema['Progression'] })}
      >
        <option value="uphill">Uphill</option><option value="downhill">Downhill</option><option value="none"
          >None</option
        >
      </select>
    </label>
    <label>
      <span class="eyebrow block">Hand</span>
      <select
        class="field"
        value={card.hand}
        onchange={(event) => onchange({ ...card, hand: event.currentTarget.value as Schema['OperatorHand'] })}
      >
        <option value="right">Right</option><option value="left">Left</option>
      </select>
    </label>
  </div>
</div>
