<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { bareText, inUnits } from '$lib/units.svelte'
  import AngleDrawing from './AngleDrawing.svelte'
  import ArcDrawing from './ArcDrawing.svelte'
  import MotionDrawing from './MotionDrawing.svelte'
  import PlaceDrawing from './PlaceDrawing.svelte'
  import { say } from './say'

  /** How the next bead is laid: four pictures with their words, and what to do when it goes wrong. */
  type Props = {
    card: Schema['CoachCard']
    /** What was found on this student's last coupon here. */
    last: string | null
    bead: string
    section: Schema['JointSection']
    laid: Set<string>
    progression: Schema['Progression']
    /** Read from two metres: two in a row and larger. */
    large?: boolean
  }
  let { card, last, bead, section, laid, progression, large = false }: Props = $props()

  const goes = $derived(progression === 'uphill' ? 'up' : progression === 'downhill' ? 'down' : 'along')
  const arcText = $derived(card.arcMm ? bareText(card.arcMm.max) : null)
</script>

{#snippet cue(name: string, says: string, here: string | null | undefined)}
  <div class="min-w-0 {large ? 'grow' : ''}">
    <h3 class={large ? 'text-2xl leading-tight' : 'text-lg leading-tight'}>{name}</h3>
    <p class="leading-snug {large ? 'text-xl' : ''}">{inUnits(says)}</p>
    {#if here}<p class="leading-snug text-(--soft) {large ? 'text-lg' : ''}">{inUnits(here)}</p>{/if}
  </div>
{/snippet}

<div class="strip" class:large>
  <div class="cell">
    <div class="picture">
      <AngleDrawing travel={card.travel} min={card.minDeg} max={card.maxDeg} {goes} />
      <span
        class="number degrees"
        class:low={goes !== 'along'}
        class:left={goes === 'along' && card.travel === 'drag'}
        >{card.minDeg === card.maxDeg ? card.maxDeg : `${card.minDeg}–${card.maxDeg}`}°</span
      >
    </div>
    {@render cue(say('angle'), card.angle.says, card.angle.here)}
  </div>
  <div class="cell">
    <div class="picture"><ArcDrawing isStickOut={card.isStickOut} text={arcText} /></div>
    {@render cue(card.isStickOut ? say('stick_out') : say('arc'), card.arc.says, card.arc.here)}
  </div>
  <div class="cell">
    <div class="picture"><MotionDrawing draw={card.draw} /></div>
    {@render cue(say('motion'), card.motion.says, card.motion.here)}
  </div>
  <div class="cell">
    <div class="picture">
      <PlaceDrawing {section} {bead} {laid} leanDeg={card.leanDeg} />
    </div>
    {@render cue(say('watch'), card.watch.says, card.watch.here)}
  </div>
</div>
<dl class="lines" class:large>
  <div>
    <dt>{say('place')}</dt>
    <dd>{inUnits(card.place.says)}. {inUnits(card.place.here ?? '')}</dd>
  </div>
  {#if card.pace}
    <div>
      <dt>{say('pace')}</dt>
      <dd>{inUnits(card.pace)}{card.paceOff ? `. ${inUnits(card.paceOff)}` : ''}</dd>
    </div>
  {/if}
  <div>
    <dt>{say('stop')}</dt>
    <dd>{inUnits(card.stop)}</dd>
  </div>
</dl>
{#if last}<p class="mt-2 border-l-4 border-(--bronze) pl-3 {large ? 'text-xl' : ''}">
    {inUnits(last)}
  </p>{/if}

<style>
  .strip {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(10rem, 1fr));
    gap: 0.75rem 1.25rem;
  }
  .strip.large {
    grid-template-columns: repeat(auto-fit, minmax(20rem, 1fr));
  }
  .cell {
    display: flex;
    min-width: 0;
    flex-direction: column;
    gap: 0.25rem;
    border-top: 1px solid var(--line);
    padding-top: 0.5rem;
  }
  .large .cell {
    flex-direction: row;
    align-items: center;
    gap: 0.75rem;
  }
  .picture {
    position: relative;
    height: 6.5rem;
    width: 8rem;
    flex-shrink: 0;
  }
  .degrees {
    position: absolute;
    top: 0.1rem;
    right: 0;
    font-size: 1.35rem;
    line-height: 1;
  }
  .degrees.low {
    top: auto;
    right: auto;
    bottom: 0.2rem;
    left: 0.2rem;
  }
  .degrees.left {
    right: auto;
    left: 0.2rem;
  }
  .lines {
    display: grid;
    gap: 0.15rem 1.25rem;
    margin-top: 0.6rem;
  }
  .lines div {
    display: grid;
    grid-template-columns: 4.5rem minmax(0, 1fr);
    gap: 0.5rem;
  }
  .lines dt {
    font-weight: 700;
  }
  .lines.large {
    font-size: 1.15rem;
  }
  @media (max-width: 420px) {
    .strip.large {
      grid-template-columns: 1fr;
    }
  }
</style>
