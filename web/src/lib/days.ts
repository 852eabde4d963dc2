const DAY = 24 * 60 * 60 * 1000

/** A moment in the school's time zone. */
export function moment(iso: string, timeZone: string): string {
  return new Intl.DateTimeFormat('en-GB', {
    timeZone,
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  }).format(new Date(iso))
}

export function dayOf(iso: string, timeZone: string): string {
  return new Intl.DateTimeFormat('en-GB', { timeZone, day: 'numeric', month: 'short' }).format(new Date(iso))
}

/** How long ago, as a person would say it. */
export function ago(iso: string, now = Date.now()): string {
  const days = Math.floor((now - new Date(iso).getTime()) / DAY)
  if (days < 1) return 'today'
  if (days === 1) return 'yesterday'
  return days < 14 ? `${days} days ago` : `${Math.round(days / 7)} weeks ago`
}
