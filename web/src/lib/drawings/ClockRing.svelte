<script lang="ts">
  import { clockAt, minutesOf } from '$lib/clock'
  import SpecimenTag, { type Tag } from './SpecimenTag.svelte'

  export type Mark = {
    id: string
    clock: string
    label: string
    look: 'within' | 'rejected' | 'tack' | 'stop' | 'cut'
  }

  type Props = {
    marks: Mark[]
    /** Clock positions where specimens are cut; a threatened one has a finding in it. With a tag it can be chosen. */
    specimens: { clock: string; threatened: boolean; tag?: Tag }[]
    chosen: string | null
    onpick: (clock: string) => void
    /** The hours at which the section can be looked at, those measured, and the one shown. */
    points?: readonly string[]
    done?: readonly string[]
    point?: string
    onpoint?: (at: string) => void
    /** Which way the next bead is welded on fixed pipe; null where the pipe lies otherwise. */
    progression?: 'uphill' | 'downhill' | null
    /** Draws the line from the chosen hour to the section beside it. */
    cut?: boolean
  }
  let {
    marks,
    specimens,
    chosen,
    onpick,
    points = [],
    done = [],
    point,
    onpoint,
    progression = null,
    cut = false,
  }: Props = $props()

  const PLACES = Array.from({ length: 24 }, (_, index) => clockAt(index * 30))
  const at = (clock: string, radius: number) => {
    const angle = (minutesOf(clock) / 720) * 2 * Math.PI
    return { x: Math.sin(angle) * radius, y: -Math.cos(angle) * radius }
  }
  const keyed = (clock: string) => (event: KeyboardEvent) => {
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault()
      onpick(clock)
    }
  }
  // Then the middle of the ring is theirs.
  const tagged = $derived(specimens.some((one) => one.tag))
  const NODE = 22
  /** From the hour that is cut to the right edge, where the section stands; from the left half round below. */
  const cutLine = $derived.by(() => {
    if (!cut || !point) return null
    const { x, y } = at(point, 122)
    return x > -1 ? `M${x + NODE} ${y}H146` : `M${x} ${y + NODE}V142H146`
  })

  function slice(clock: string): string {
    const middle = minutesOf(clock)
    const edge = (minutes: number, radius: number) => {
      const angle = (minutes / 720) * 2 * Math.PI
      return `${Math.sin(angle) * radius},${-Math.cos(angle) * radius}`
    }
    return `M${edge(middle - 15, 60)}L${edge(middle - 15, 98)}A98 98 0 0 1 ${edge(middle + 15, 98)}L${edge(middle + 15, 60)}A60 60 0 0 0 ${edge(middle - 15, 60)}Z`
  }
</script>

<svg
  viewBox="-146 -146 292 292"
  class="mx-auto w-full max-w-[23rem] select-none"
  role="group"
  aria-label="Clock ring of the pipe: choose where the finding is"
>
  <defs>
    <pattern id="cut-out" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <line x1="0" y1="0" x2="0" y2="7" stroke="var(--straw-ink)" stroke-width="1.2" />
    </pattern>
  </defs>
  {#if cutLine}<path
      d={cutLine}
      class="hidden sm:inline"
      fill="none"
      stroke="var(--ink)"
      stroke-width="2"
      stroke-dasharray="6 4"
    />{/if}
  {#if progression && !tagged}
    <g fill="none" stroke="var(--cold)" stroke-width="2.5" aria-hidden="true">
      {#each [1, -1] as side (side)}
        <g transform="scale({side} {progression === 'uphill' ? 1 : -1})">
          <path d="M10 51A52 52 0 0 0 17 -49" />
          <path d="M27 -52L16 -49L23 -40" />
        </g>
      {/each}
    </g>
  {/if}
  {#each specimens as specimen (specimen.clock)}
    <path d={slice(specimen.clock)} fill="var(--straw-ground)" />
    <path d={slice(specimen.clock)} fill="url(#cut-out)" />
  {/each}
  {#each PLACES as clock (clock)}
    <path
      d={slice(clock)}
      role="button"
      tabindex="0"
      aria-pressed={chosen === clock}
      aria-label="{clock} o'clock"
      data-clock={clock}
      fill={chosen === clock ? 'var(--ink)' : 'transparent'}
      stroke="var(--steel-edge)"
      stroke-width="1"
      onclick={() => onpick(clock)}
      onkeydown={keyed(clock)}
    />
  {/each}
  {#each ['12', '3', '6', '9'].filter((hour) => !points.includes(hour)) as hour (hour)}
    {@const place = at(hour, 112)}
    <text x={place.x} y={place.y + 7} text-anchor="middle" class="number" font-size="21" fill="var(--ink)"
      >{hour}</text
    >
  {/each}
  <g role="group" aria-label="Measured at">
    {#each points as hour (hour)}
      {@const place = at(hour, 122)}
      <g
        role="button"
        tabindex="0"
        aria-pressed={point === hour}
        aria-label="{hour} o'clock{done.includes(hour) ? ', measured' : ''}"
        transform="translate({place.x} {place.y})"
        onclick={() => onpoint?.(hour)}
        onkeydown={(event) => {
          if (event.key !== 'Enter' && event.key !== ' ') return
          event.preventDefault()
          onpoint?.(hour)
        }}
      >
        <circle r="22" fill={point === hour ? 'var(--ink)' : 'var(--plate)'} />
        <text
          y="8"
          text-anchor="middle"
          class="number"
          font-size="23"
          fill={point === hour ? 'var(--page)' : 'var(--ink)'}>{hour}</text
        >
        {#if done.includes(hour)}<path
            d="M8 -17L12 -13L19 -21"
            fill="none"
            stroke="var(--blue)"
            stroke-width="3"
          />{/if}
      </g>
    {/each}
  </g>
  {#each specimens.filter((one) => one.threatened) as specimen (specimen.clock)}
    <path
      d={slice(specimen.clock)}
      fill="none"
      stroke="var(--caution)"
      stroke-width="3"
      stroke-dasharray="5 3"
      pointer-events="none"
      role="img"
      aria-label="The specimen at {specimen.clock} has a finding in it"
    />
  {/each}
  {#each marks as mark, index (mark.id)}
    {@const place = at(
      mark.clock,
      mark.look === 'tack' ? 79 : mark.look === 'stop' || mark.look === 'cut' ? 98 : 79 - (index % 3) * 9,
    )}
    <g transform="translate({place.x} {place.y})" role="img" aria-label={mark.label} pointer-events="none">
      {#if mark.look === 'rejected'}
        <path d="M-7 -5h4l3 4 3-4h4v10h-14z" fill="var(--caution)" stroke="var(--sheet)" />
      {:else if mark.look === 'tack'}
        <rect x="-6" y="-9" width="12" height="18" rx="5" fill="var(--cold)" stroke="var(--ink)" />
      {:else if mark.look === 'stop'}
        <path d="M0 -7V7M-7 0H7" stroke="var(--ink)" stroke-width="2.5" />
      {:else if mark.look === 'cut'}
        <path d="M-8 -7L0 7L8 -7" fill="none" stroke="var(--ink)" stroke-width="2.5" />
      {:else}
        <circle r="5" fill="var(--blue)" stroke="var(--sheet)" />
      {/if}
    </g>
  {/each}
  {#if tagged}
    {#each specimens as { clock, tag } (clock)}
      {@const place = at(clock, 34)}
      {#if tag}<SpecimenTag {tag} {...place} width={44} />{/if}
    {/each}
  {:else}
    <text y="-6" text-anchor="middle" font-size="13" fill="var(--soft)">seen from the</text>
    <text y="10" text-anchor="middle" font-size="13" fill="var(--soft)">welder's side</text>
  {/if}
</svg>

<style>
  [role='button'] {
    cursor: pointer;
  }
  g[role='button']:focus-visible {
    outline: none;
  }
  g[role='button']:focus-visible circle {
    stroke: var(--bronze);
    stroke-width: 4;
  }
  path[role='button']:focus-visible {
    outline: none;
    stroke: var(--bronze);
    stroke-width: 4;
  }
</style>
