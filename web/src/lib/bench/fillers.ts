import type { Schema } from '$lib/api/client'
import { MM_PER_INCH } from '$lib/units.svelte'

// AWS classifications a school is likely to hold, by process; a card's own comes first whatever it is. A choice to tap, not a limit.
const FILLERS: Partial<Record<Schema['Process'], string[]>> = {
  smaw: ['E6010', 'E6011', 'E6013', 'E7018', 'E7018-1', 'E7024', 'E8018-B2', 'E308L-16', 'E316L-16'],
  gtaw: ['ER70S-2', 'ER70S-3', 'ER70S-6', 'ER80S-B2', 'ER308L', 'ER316L', 'ER4043', 'ER5356'],
  gmaw: ['ER70S-3', 'ER70S-6', 'E70C-6M', 'ER308LSi', 'ER4043', 'ER5356'],
  fcawG: ['E71T-1', 'E71T-1M', 'E71T-9'],
  fcawS: ['E71T-8', 'E71T-11'],
}
const ROD_SIZES = ['1/16', '5/64', '3/32', '1/8', '5/32', '3/16']
const WIRE_SIZES = ['0.023', '0.030', '0.035', '0.045', '0.052', '1/16', '5/64']

const inchesOf = (text: string) => {
  const [over = 0, under = 1] = text.split('/').map(Number)
  return over / under
}

export function fillersOf(card: Schema['PassCard']): string[] {
  return [...new Set([card.electrodeClass, ...(FILLERS[card.process] ?? [])])]
}

export function diametersOf(card: Schema['PassCard']): { mm: number; text: string }[] {
  const isWire = card.wireFeedMmPerMin != null
  const sizes = (isWire ? WIRE_SIZES : ROD_SIZES).map((text) => ({ mm: inchesOf(text) * MM_PER_INCH, text }))
  const known = sizes.some((size) => Math.abs(size.mm - card.diameterMm) < 0.01)
  return known
    ? sizes.map((size) =>
        Math.abs(size.mm - card.diameterMm) < 0.01 ? { ...size, mm: card.diameterMm } : size,
      )
    : [{ mm: card.diameterMm, text: card.diameterText }, ...sizes]
}
