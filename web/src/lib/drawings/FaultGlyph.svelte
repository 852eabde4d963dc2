<script lang="ts">
  import type { Schema } from '$lib/api/client'

  /** A fault in small: the joint cut across, with what is wrong drawn in the caution colour. */
  let { kind }: { kind: Schema['DiscontinuityKind'] } = $props()

  const TOP = 'M2 20H22L30 36H34L42 20H62' // the groove
  const CAP = 'M20 20Q32 8 44 20L34 36H30Z'
  // Where the fault lies, as outlines in the same field of 64 by 44.
  const SHAPES: Partial<
    Record<Schema['DiscontinuityKind'], { bead?: string; fault: string; filled?: boolean }>
  > = {
    undercut: { fault: 'M42 20L46 20L46 24Q44 28 41 24Z' },
    underfill: { bead: 'M22 20Q32 30 42 20L34 36H30Z', fault: 'M21 20Q32 31 43 20' },
    overlap: { bead: 'M20 20Q30 6 50 15Q53 19 46 20L42 20L34 36H30Z', fault: 'M42 20.5H50Q55 18 50 14' },
    excessFaceReinforcement: { bead: 'M20 20Q32 -8 44 20L34 36H30Z', fault: 'M52 20V5M48 20H56M48 5H56' },
    porosity: {
      fault: 'M28 20a2.5 2.5 0 1 0 .1 0M35 24a2.5 2.5 0 1 0 .1 0M32 13.5a2.5 2.5 0 1 0 .1 0',
      filled: true,
    },
    wormholes: { fault: 'M26 12Q30 20 28 28M32 10Q36 20 32 30M38 13Q38 20 35 27' },
    poorRestart: { bead: 'M20 20Q24 12 28 12Q32 3 37 12Q41 13 44 20L34 36H30Z', fault: 'M27 11Q32 1 38 11' },
    slagInclusion: { fault: 'M26 27Q31 22 36 27Q33 31 28 30Z', filled: true },
    incompleteFusion: { fault: 'M42 20L35 34' },
    incompleteJointPenetration: { bead: 'M20 20Q32 8 44 20L36 32H28Z', fault: 'M29 33H35V37H29Z' },
    burnThrough: {
      bead: 'M20 20Q26 14 28 26L28 36H30Z',
      fault: 'M29 22Q32 40 36 22M32 38V43M27 40L25 43M37 40L39 43',
    },
    rootConcavity: { bead: 'M20 20Q32 8 44 20L34 36Q32 30 30 36Z', fault: 'M29 37Q32 29 35 37' },
    excessPenetration: { bead: 'M20 20Q32 8 44 20L34 36Q32 47 30 36Z', fault: 'M29 36Q32 47 35 36' },
    crack: { fault: 'M32 11L30 18L34 22L30 28L33 34' },
    craterCrack: { bead: 'M12 20Q32 8 52 20Z', fault: 'M32 11V19M28 15H36M29 12L35 18M35 12L29 18' },
    oxidisedRoot: { bead: CAP, fault: 'M27 37Q29 41 31 38Q33 42 35 38Q36 41 38 37' },
    unmeltedWire: { bead: CAP, fault: 'M31 35L28 43M33 35L36 43' },
    arcStrike: { fault: 'M52 8L48 14H53L49 20' },
    spatter: {
      fault: 'M50 17a1.6 1.6 0 1 0 .1 0M55 18a1.2 1.2 0 1 0 .1 0M12 17a1.6 1.6 0 1 0 .1 0',
      filled: true,
    },
    tungstenInclusion: { fault: 'M31 24L34 21L35 26L31 28Z', filled: true },
    misalignment: { fault: 'M46 20V26M43 26H50M43 20H50' },
    grindGouge: { fault: 'M46 20Q50 27 54 20' },
  }
  const shape = $derived(SHAPES[kind])
</script>

<svg viewBox="0 0 64 44" class="h-10 w-13 shrink-0" aria-hidden="true">
  <path d="M2 20H22L30 36H2Z M62 20H42L34 36H62Z" fill="var(--steel)" />
  <path d={shape?.bead ?? CAP} fill="var(--bronze)" />
  <path d={TOP} fill="none" stroke="var(--ink)" stroke-width="1.6" stroke-dasharray="20 40" />
  {#if shape}
    <path
      d={shape.fault}
      fill={shape.filled ? 'var(--sheet)' : 'none'}
      stroke="var(--caution)"
      stroke-width="2.6"
      stroke-linejoin="round"
      stroke-linecap="round"
    />
  {/if}
</svg>
