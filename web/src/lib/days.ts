import { todayIn } from '$lib/weeks'

const DAY = 24 * 60 * 60 * 1000

const DAY_AND_TIME = { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' } as const

/** A moment in the school's time zone. */
export const moment = (iso: string, timeZone: string): string =>
  new Intl.DateTimeFormat('en-GB', { timeZone, ...DAY_AND_TIME }).format(new Date(iso))

/** A moment of any year, in the school's time zone. */
export const momentOfYear = (iso: string, timeZone: string): string =>
  new Intl.DateTimeFormat('en-GB', { timeZone, year: 'numeric', ...DAY_AND_TIME }).format(new Date(iso))

/** The time of day of a moment in the school's time zone. */
export const timeOf = (iso: string, timeZone: string): string =>
  new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', minute: '2-digit' }).format(new Date(iso))

export function dayOf(iso: string, timeZone: string): string {
  return new Intl.DateTimeFormat('en-GB', { timeZone, day: 'numeric', month: 'short' }).format(new Date(iso))
}

/** How long ago, as a person at the school would say it: by its days, not by 24 hours. */
export function ago(iso: string, timeZone: string, now = new Date()): string {
  const days = Math.round(
    (Date.parse(todayIn(timeZone, now)) - Date.parse(todayIn(timeZone, new Date(iso)))) / DAY,
  )
  if (days < 1) return 'today'
  if (days === 1) return 'yesterday'
  return days < 14 ? `${days} days ago` : `${Math.round(days / 7)} weeks ago`
}

/** A day of any year. */
export const yearDay = (day: string): string =>
  new Intl.DateTimeFormat('en-GB', {
    timeZone: 'UTC',
    day: 'numeric',
    month: 'short',
    year: 'numeric',
  }).format(new Date(day))
