import type { Schema } from '$lib/api/client'
import { HEAT, lengthText, MM_PER_INCH, units } from '$lib/units.svelte'

/** The two ends of a pass, and what is said of them. */
export const ENDS = [
  ['startAt', 'Started'],
  ['stopAt', 'Stopped'],
] as const

export const feedText = (mmPerMin: number) =>
  units.unit === 'in'
    ? `${Math.round(mmPerMin / MM_PER_INCH)} in/min`
    : `${(mmPerMin / 1000).toFixed(1)} m/min`

/** A place on the joint as it is said: on the clock, or along the plate. */
export const placeText = (at: string, product: Schema['Product']) =>
  product === 'pipe'
    ? `${at} o'clock`
    : Number.isNaN(Number(at))
      ? `the ${at}`
      : `${lengthText(Number(at))} from the start`

const clock = (at: string) => at.replace(/:00$/, '')
const along = (at: string) => (Number.isNaN(Number(at)) ? at : lengthText(Number(at)))

/** A stretch of the joint as it is said: `6 to 12 by 9 o'clock`, `start to end`. */
export function stretchText(
  from: string,
  to: string,
  side: Schema['PipeSide'] | null | undefined,
  product: Schema['Product'],
): string {
  if (product !== 'pipe') return `${along(from)} to ${along(to)}`
  return `${clock(from)} to ${clock(to)}${side ? ` by ${side === 'nine' ? '9' : '3'}` : ''} o'clock`
}

/** A run as it is said: the whole bead, or from one place to another. */
export const runText = (run: Schema['PassView'], product: Schema['Product']): string =>
  run.part ? stretchText(run.startAt ?? '', run.stopAt ?? '', run.side, product) : 'The whole bead'

/** What follows from the length and the arc time of a run. */
export function numbersText(numbers: Schema['RunNumbers']): string {
  if (numbers.travelMmPerMin == null) return ''
  const travel =
    units.unit === 'in'
      ? `${(numbers.travelMmPerMin / MM_PER_INCH).toFixed(1)} in/min`
      : `${Math.round(numbers.travelMmPerMin)} mm/min`
  const heat =
    numbers.heatKJPerMm == null
      ? ''
      : `${(numbers.heatKJPerMm / HEAT[units.unit].per).toFixed(units.unit === 'in' ? 1 : 2)} ${HEAT[units.unit].unit}`
  const guessed = [
    numbers.travelEstimated ? 'travel from the rods' : '',
    numbers.voltsEstimated ? 'volts estimated' : '',
  ]
  const notes = guessed.filter(Boolean).join(', ')
  return `${travel}, ${heat}${notes ? ` (${notes})` : ''}`
}
