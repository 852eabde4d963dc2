import type { Schema } from '$lib/api/client'
import { lengthText, MM_PER_INCH, units } from '$lib/units.svelte'

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

/** A run as it is said: the whole bead, or from one place to another. */
export function runText(run: Schema['PassView'], product: Schema['Product']): string {
  if (!run.part) return 'The whole bead'
  if (product !== 'pipe') return `${lengthOf(run.startAt)} to ${lengthOf(run.stopAt)}`
  return `${clock(run.startAt ?? '')} to ${clock(run.stopAt ?? '')} o'clock${run.side ? ` by ${run.side === 'nine' ? '9' : '3'}` : ''}`
}
const lengthOf = (at: string | null | undefined) =>
  at == null ? '' : Number.isNaN(Number(at)) ? at : lengthText(Number(at))

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
      : units.unit === 'in'
        ? `${(numbers.heatKJPerMm * MM_PER_INCH).toFixed(1)} kJ/in`
        : `${numbers.heatKJPerMm.toFixed(2)} kJ/mm`
  return `${travel}, ${heat}${numbers.voltsEstimated ? ' (volts estimated)' : ''}`
}
