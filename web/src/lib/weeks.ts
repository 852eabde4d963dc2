const DAY_MS = 24 * 60 * 60 * 1000

const utc = (day: string) => new Date(`${day}T00:00:00Z`)
const iso = (date: Date) => date.toISOString().slice(0, 10)

/** The Monday of the week that a day lies in; days as 2026-11-23. */
export function mondayOf(day: string): string {
  const date = utc(day)
  return iso(new Date(date.getTime() - ((date.getUTCDay() + 6) % 7) * DAY_MS))
}

/** The Monday so many weeks later. */
export const weekAfter = (monday: string, weeks: number) =>
  iso(new Date(utc(monday).getTime() + weeks * 7 * DAY_MS))

/** The day so many days later. */
export const dayAfter = (day: string, days: number) => iso(new Date(utc(day).getTime() + days * DAY_MS))

/** Today in the school's time zone. */
export const todayIn = (timeZone: string, now = new Date()) =>
  new Intl.DateTimeFormat('en-CA', { timeZone, year: 'numeric', month: '2-digit', day: '2-digit' }).format(
    now,
  )

export const shortDay = (day: string) =>
  new Intl.DateTimeFormat('en-GB', {
    timeZone: 'UTC',
    weekday: 'short',
    day: 'numeric',
    month: 'short',
  }).format(utc(day))

/** A day of any year. */
export const dayAndYear = (day: string) =>
  new Intl.DateTimeFormat('en-GB', {
    timeZone: 'UTC',
    day: 'numeric',
    month: 'long',
    year: 'numeric',
  }).format(utc(day))

/** A day in full: the school's, wherever this tablet thinks it is. */
export const longDay = (day: string) =>
  new Intl.DateTimeFormat('en-GB', {
    timeZone: 'UTC',
    weekday: 'long',
    day: 'numeric',
    month: 'long',
  }).format(utc(day))

/** Points of a chance, as a plan counts its gains. */
export const points = (gain: number) => (100 * gain).toFixed(gain < 0.0995 ? 1 : 0)

export const hours = (minutes: number) =>
  minutes < 90 ? `${Math.round(minutes)} min` : `${(minutes / 60).toFixed(1)} h`
