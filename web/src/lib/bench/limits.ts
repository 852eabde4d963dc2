import type { Schema } from '$lib/api/client'
import { inUnits, lengthText } from '$lib/units.svelte'
import { measureName } from '$lib/words'

/** A limit as it is said: `3/64 in; the limit is 1/32 in`. */
export function limitText(reason: Schema['LimitReason']): string {
  if (reason.measure == null) return inUnits(reason.rule)
  if (reason.outcome === 'cannot-judge')
    return `${measureName(reason.measure)} not measured yet. ${inUnits(reason.rule)}`
  if (reason.warns)
    return `${measureName(reason.measure)} ${lengthText(reason.measured ?? 0)}: accepted, and a warning. ${inUnits(reason.rule)}`
  if (reason.limit === 0) return inUnits(reason.rule)
  const size = reason.measure === 'count' ? `${reason.measured}` : lengthText(reason.measured ?? 0)
  const limit = reason.measure === 'count' ? `${reason.limit}` : lengthText(reason.limit ?? 0)
  const least = reason.measure.startsWith('leg') && reason.measure !== 'legDifferenceMm'
  return `${measureName(reason.measure)} ${size}; ${least ? 'at least' : 'the limit is'} ${limit}.`
}

export const sourceText = (reason: Schema['LimitReason']) =>
  `${reason.source}${reason.fromMemory ? '; check against your edition' : ''}`
