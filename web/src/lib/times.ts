const MINUTE = 60
const HOUR = 60 * MINUTE
const DAY = 24 * HOUR

const some = (count: number, unit: string) => `${count} ${unit}${count === 1 ? '' : 's'}`

/** A span as a person would say it: in the largest unit of which there are two or more. */
export function roughly(seconds: number): string {
  if (seconds >= 2 * DAY) return some(Math.round(seconds / DAY), 'day')
  if (seconds >= 2 * HOUR) return some(Math.round(seconds / HOUR), 'hour')
  return some(Math.max(1, Math.round(seconds / MINUTE)), 'minute')
}
