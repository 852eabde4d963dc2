<script lang="ts">
  import { lengthText } from '$lib/units.svelte'
  import SpecimenTag, { type Tag } from './SpecimenTag.svelte'

  export type Mark = {
    id: string
    fromStartMm: number
    label: string
    look: 'within' | 'rejected' | 'tack' | 'stop' | 'cut'
  }

  type Props = {
    lengthMm: number
    marks: Mark[]
    /** The strips that are cut; a threatened one has a finding in it. With a tag it can be chosen. */
    specimens: { kind: string; fromMm: number; toMm: number; threatened: boolean; tag?: Tag }[]
    chosen: number | null
    onpick: (fromStartMm: number) => void
  }
  let { lengthMm, marks, specimens, chosen, onpick }: Props = $props()

  const CUTS: Record<string, string> = {
    vise: 'bend in the vise',
    filletBreak: 'break',
    nickBreak: 'nick-break',
    tensile: 'tensile',
    macro: 'macro',
    radiograph: 'film',
  }

  // Twelve places: half an inch each on a 6 in plate, wide enough for a thumb.
  const COUNT = 12
  const step = $derived(lengthMm / COUNT)
  const isChosen = (index: number) =>
    chosen != null && Math.min(COUNT - 1, Math.floor(chosen / step)) === index
  const keyed = (index: number) => (event: KeyboardEvent) => {
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault()
      onpick((index + 0.5) * step)
    }
  }
  const x = (mm: number) => (mm / lengthMm) * 600
</script>

<svg
  viewBox="-6 0 612 112"
  class="w-full select-none"
  role="group"
  aria-label="Plate strip: choose how far from the start the finding is"
>
  <defs>
    <pattern id="cut-out" width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <line x1="0" y1="0" x2="0" y2="9" stroke="var(--straw-ink)" stroke-width="1.2" />
    </pattern>
  </defs>
  {#each specimens as specimen (specimen.fromMm)}
    {#each ['var(--straw-ground)', 'url(#cut-out)'] as fill (fill)}
      <rect x={x(specimen.fromMm)} y="14" width={x(specimen.toMm - specimen.fromMm)} height="72" {fill} />
    {/each}
    <text
      x={x((specimen.fromMm + specimen.toMm) / 2)}
      y="11"
      text-anchor="middle"
      font-size="12"
      fill="var(--soft)">{CUTS[specimen.kind] ?? `${specimen.kind} bend`}</text
    >
  {/each}
  {#each { length: COUNT }, index (index)}
    <rect
      x={index * 50}
      y="14"
      width="50"
      height="72"
      role="button"
      tabindex="0"
      aria-pressed={isChosen(index)}
      aria-label="{lengthText((index + 0.5) * step)} from the start"
      data-place={index}
      fill={isChosen(index) ? 'var(--ink)' : 'transparent'}
      stroke="var(--steel-edge)"
      onclick={() => onpick((index + 0.5) * step)}
      onkeydown={keyed(index)}
    />
  {/each}
  <line
    x1="0"
    y1="50"
    x2="600"
    y2="50"
    stroke="var(--cold)"
    stroke-width="10"
    stroke-dasharray="3 2"
    pointer-events="none"
    opacity="0.5"
  />
  {#each specimens.filter((one) => one.threatened) as specimen (specimen.fromMm)}
    <rect
      x={x(specimen.fromMm)}
      y="15"
      width={x(specimen.toMm - specimen.fromMm)}
      height="70"
      fill="none"
      stroke="var(--caution)"
      stroke-width="3"
      stroke-dasharray="7 4"
      pointer-events="none"
      role="img"
      aria-label="The {CUTS[specimen.kind] ?? `${specimen.kind} bend`} strip has a finding in it"
    />
  {/each}
  {#each specimens as { tag, fromMm, toMm } (fromMm)}
    {#if tag}<SpecimenTag
        {tag}
        x={x((fromMm + toMm) / 2)}
        y={50}
        width={Math.min(86, Math.max(46, x(toMm - fromMm)))}
      />{/if}
  {/each}
  {#each marks as mark, index (mark.id)}
    <g
      transform="translate({x(mark.fromStartMm)} {mark.look === 'tack'
        ? 72
        : mark.look === 'stop' || mark.look === 'cut'
          ? 50
          : 38 + (index % 3) * 12})"
      role="img"
      aria-label={mark.label}
      pointer-events="none"
    >
      {#if mark.look === 'rejected'}
        <path d="M-8 -6h5l3 5 3-5h5v12h-16z" fill="var(--caution)" stroke="var(--sheet)" />
      {:else if mark.look === 'tack'}
        <rect x="-14" y="-7" width="28" height="14" rx="6" fill="var(--cold)" stroke="var(--ink)" />
      {:else if mark.look === 'stop'}
        <path d="M0 -9V9" stroke="var(--ink)" stroke-width="3" />
      {:else if mark.look === 'cut'}
        <path d="M-9 -8L0 8L9 -8" fill="none" stroke="var(--ink)" stroke-width="2.5" />
      {:else}
        <circle r="6" fill="var(--blue)" stroke="var(--sheet)" />
      {/if}
    </g>
  {/each}
  <text x="0" y="104" font-size="14" fill="var(--soft)">start</text>
  <text x="600" y="104" font-size="14" text-anchor="end" fill="var(--soft)">{lengthText(lengthMm)}</text>
</svg>

<style>
  rect[role='button'] {
    cursor: pointer;
  }
  rect[role='button']:focus-visible {
    outline: none;
    stroke: var(--bronze);
    stroke-width: 4;
  }
</style>
