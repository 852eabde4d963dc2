<script lang="ts">
  import { createQuery, keepPreviousData } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import type { PassExtras } from '$lib/recording'
  import { lengthText, units } from '$lib/units.svelte'
  import { beadName, processName } from '$lib/words'
  import LaidPass from './LaidPass.svelte'
  import PassNotes from './PassNotes.svelte'
  import PassSettings from './PassSettings.svelte'

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
  const lens = createQuery(() => ({
    queryKey: ['lens', card.process, card.amps],
    queryFn: () => ask(api.POST('/api/calc/lens', { body: { process: card.process, amps: card.amps } })),
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  }))

  const closed = $derived(coupon.closedAt != null)
</script>

<h2 class="text-xl">{beadName(bead)}</h2>
{#if bead.pass}
  <LaidPass pass={bead.pass} product={coupon.test.product} />
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
  <PassSettings {card} {onchange} />
  <PassNotes {coupon} bind:extras bind:marking />
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
