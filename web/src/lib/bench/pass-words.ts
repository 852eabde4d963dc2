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
