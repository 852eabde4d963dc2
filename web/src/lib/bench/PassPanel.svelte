<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { moment } from '$lib/days'
  import { session } from '$lib/session.svelte'
  import type { PassExtras } from '$lib/recording'
  import { bareText, chips, lengthText, MM_PER_INCH, units } from '$lib/units.svelte'
  import { beadName, processName, techniqueName, techniques } from '$lib/words'
  import { diametersOf, fillersOf } from './fillers'

  type Props = {
    coupon: Schema['CouponView']
    bead: Schema['BeadView']
    card: Schema['PassCard']
    busy: boolean
    /** What is noted with the pass beside its settings. */
    extras: PassExtras
    /** Which end of the pass the next tap on the drawing is for. */
    marking: 'startAt' | 'stopAt' | null
    onseen: (point: string) => void
    onchange: (card: Schema['PassCard']) => void
    onlog: () => void
    ontakeback: (passId: string) => void
    onfinding: () => void
  }
  let {
    coupon,
    bead,
    card,
    busy,
    extras = $bindable(),
    marking = $bindable(),
    onseen,
    onchange,
    onlog,
    ontakeback,
    onfinding,
  }: Props = $props()
  const heat = $derived(coupon.test.temperatures)
  const lens = createQuery(() => ({
    queryKey: ['lens', card.process, card.amps],
    queryFn: () => ask(api.POST('/api/calc/lens', { body: { process: card.process, amps: card.amps } })),
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  }))

  const placeText = (at: string) =>
    coupon.test.product === 'pipe' ? `${at} o'clock` : `${lengthText(Number(at))} from the start`
  const ends = [
    ['startAt', 'Started'],
    ['stopAt', 'Stopped'],
  ] as ['startAt' | 'stopAt', string][]
  const closed = $derived(coupon.closedAt != null)
  const feed = (mmPerMin: number) =>
    units.unit === 'in'
      ? `${Math.round(mmPerMin / MM_PER_INCH)} in/min`
      : `${(mmPerMin / 1000).toFixed(1)} m/min`
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
    <button class="tap number text-2xl" aria-label="Less {label}" onclick={down}>−</button>
    <span class="number w-28 text-center text-2xl" class:text-(--caution)={warn}>{shown}</span>
    <button class="tap number text-2xl" aria-label="More {label}" onclick={up}>+</button>
    <span class="text-sm text-(--soft)">{hint}{warn ? ': outside' : ''}</span>
  </div>
{/snippet}

<h2 class="text-xl">{beadName(bead)}</h2>
{#if bead.pass}
  <p class="mt-1">Laid {moment(bead.pass.recordedAt, session.timeZone)}, logged by {bead.pass.recordedBy}.</p>
  <p class="number mt-1 text-xl">
    {processName(bead.pass.process)}
    {bead.pass.electrodeClass}, {bead.pass.polarity.toUpperCase()}, {bead.pass.amps} A{bead.pass.volts
      ? `, ${bead.pass.volts} V`
      : ''}{bead.pass.wireFeedMmPerMin ? `, ${feed(bead.pass.wireFeedMmPerMin)}` : ''}
  </p>
  <p>
    {techniqueName(bead.pass.technique)}, {bead.pass.progression === 'none'
      ? ''
      : `${bead.pass.progression}, `}{bead.pass.hand} hand{bead.pass.interpassC != null
      ? `, ${bead.pass.interpassC} °C before`
      : ''}.
    {#each ends as [which, name] (which)}{bead.pass[which]
        ? ` ${name} at ${placeText(bead.pass[which]!)}.`
        : ''}{/each}
  </p>
  {#if !closed}
    <div class="mt-3 flex gap-2">
      <button class="tap" onclick={() => ontakeback(bead.pass!.id)}>Take it back</button>
      <button class="tap" onclick={onfinding}>Add a finding</button>
    </div>
  {/if}
{:else if closed}
  <p class="mt-1">Not laid.</p>
{:else}
  <p class="mt-1">
    <span class="number text-xl">{processName(card.process)} {card.electrodeClass}</span>
    <span class="number text-lg"
      >{units.unit === 'in' ? `${card.diameterText} in` : lengthText(card.diameterMm)}, {card.polarity.toUpperCase()}{card.gas
        ? `, ${card.gas}`
        : ''}</span
    >
    <span class="text-(--soft)"
      >{card.clean
        ? `clean in ${card.clean.cleanPasses} of ${card.clean.passes} passes${card.sameBooth ? ' in this booth' : ''}`
        : card.fromLast
          ? 'as last time'
          : 'from the test'}</span
    >
  </p>
  {#each coupon.life.holdsDue as point (point)}
    <div class="mt-2 flex flex-wrap items-center gap-2 border-l-4 border-(--bronze) px-3 py-1">
      <span class="grow font-semibold">Hold point before this pass: {point.toLowerCase()}</span>
      <button class="tap" onclick={() => onseen(point)}>Seen, go on</button>
    </div>
  {/each}
  <div class="mt-2 grid grid-cols-2 gap-2">
    <button class="tap tap-main text-lg" disabled={busy} onclick={onlog}>Log it clean</button>
    <button class="tap text-lg" onclick={onfinding}>Add a finding</button>
  </div>
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
        feed(card.wireFeedMmPerMin),
        span ? `${feed(span.min)} to ${feed(span.max)}` : '',
        outside(card.wireFeedMmPerMin, span),
        () => onchange({ ...card, wireFeedMmPerMin: card.wireFeedMmPerMin! - 5 * MM_PER_INCH }),
        () => onchange({ ...card, wireFeedMmPerMin: card.wireFeedMmPerMin! + 5 * MM_PER_INCH }),
      )}
    {/if}
    <div class="flex flex-wrap items-center gap-2">
      <label>
        <span class="eyebrow block">Rod or wire</span>
        <select
          class="h-12 border-[1.5px] border-(--steel-edge) bg-(--sheet)"
          value={card.electrodeClass}
          onchange={(event) => onchange({ ...card, electrodeClass: event.currentTarget.value })}
        >
          {#each fillersOf(card) as filler (filler)}<option>{filler}</option>{/each}
        </select>
      </label>
      <label>
        <span class="eyebrow block">Size</span>
        <select
          class="h-12 border-[1.5px] border-(--steel-edge) bg-(--sheet)"
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
          class="h-12 border-[1.5px] border-(--steel-edge) bg-(--sheet)"
          value={card.polarity}
          onchange={(event) =>
            onchange({ ...card, polarity: event.currentTarget.value as Schema['Polarity'] })}
        >
          {#each ['dcep', 'dcen', 'ac'] as polarity (polarity)}<option value={polarity}
              >{polarity.toUpperCase()}</option
            >{/each}
        </select>
      </label>
      <label>
        <span class="eyebrow block">Technique</span>
        <select
          class="h-12 border-[1.5px] border-(--steel-edge) bg-(--sheet)"
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
          class="h-12 border-[1.5px] border-(--steel-edge) bg-(--sheet)"
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
          class="h-12 border-[1.5px] border-(--steel-edge) bg-(--sheet)"
          value={card.hand}
          onchange={(event) =>
            onchange({ ...card, hand: event.currentTarget.value as Schema['OperatorHand'] })}
        >
          <option value="right">Right</option><option value="left">Left</option>
        </select>
      </label>
    </div>
  </div>
  <div class="mt-3 flex flex-wrap items-center gap-1.5" role="group" aria-label="Below flush after this pass">
    <span class="eyebrow">Below flush now</span>
    {#each chips([0, 2, 4, 6, 8, 12, 16], [0, 8, 16, 24, 32, 48, 64]) as mm (mm)}
      <button
        class="tap number px-2 text-lg"
        aria-pressed={extras.belowFlushMm === mm}
        aria-label="Below flush {lengthText(mm)}"
        onclick={() => (extras.belowFlushMm = extras.belowFlushMm === mm ? null : mm)}>{bareText(mm)}</button
      >
    {/each}
    <label class="flex items-center gap-1">
      <span class="eyebrow">°C before</span>
      <input
        class="number h-12 w-20 border-[1.5px] border-(--steel-edge) bg-(--sheet) px-2 text-lg"
        inputmode="numeric"
        value={extras.interpassC ?? ''}
        onchange={(event) => {
          const degrees = Number(event.currentTarget.value)
          extras.interpassC = event.currentTarget.value.trim() && Number.isFinite(degrees) ? degrees : null
        }}
      />
    </label>
  </div>
  <div class="mt-2 flex flex-wrap items-center gap-1.5" role="group" aria-label="Start and stop">
    {#each ends as [which, name] (which)}
      <button
        class="tap px-2"
        aria-pressed={marking === which}
        onclick={() => {
          if (extras[which] != null) extras[which] = null
          else marking = marking === which ? null : which
        }}
        >{marking === which
          ? `${name}: tap the ${coupon.test.product === 'pipe' ? 'ring' : 'strip'}`
          : extras[which] != null
            ? `${name} at ${placeText(extras[which]!)}`
            : `${name} at…`}</button
      >
    {/each}
  </div>
  {#if heat && extras.interpassC != null && (extras.interpassC < (heat.preheatMinC ?? -Infinity) || extras.interpassC > (heat.interpassMaxC ?? Infinity))}
    <p class="mt-1 font-semibold text-(--caution)">
      {heat.preheatMinC} °C at least, {heat.interpassMaxC} °C at most between passes. {heat.source}.
    </p>
  {/if}
  {#if card.note}<p class="mt-3 border-l-4 pl-3 text-(--soft)" style:border-left-color="var(--straw)">
      {card.note}
    </p>{/if}
  {#if lens.data}
    <p class="mt-2 text-sm font-semibold text-(--caution)">
      At {card.amps} A: lens shade {lens.data.least} at least{lens.data.suggested
        ? `, ${lens.data.suggested} suggested`
        : ''}.
    </p>
  {/if}
  {#if coupon.fitUp.outcome === 'mend' || coupon.fitUp.outcome === 'open'}
    <p class="mt-3 font-semibold text-(--caution)">
      {coupon.fitUp.outcome === 'mend'
        ? 'The fit-up still needs mending.'
        : 'The fit-up is not all checked yet.'}
    </p>
  {/if}
{/if}
