const ROUND = 720 // minutes of a clock's face
const HOUR = 60

/** Minutes past twelve of a clock position: `4:30`, or `6` for the hour. */
export function minutesOf(clock: string): number {
  const [hours = '12', minutes = '0'] = clock.split(':')
  return (Number(hours) % 12) * HOUR + Number(minutes)
}

/** A clock position from minutes past twelve, either way round. */
export function clockAt(minutes: number): string {
  const at = ((minutes % ROUND) + ROUND) % ROUND
  return `${Math.floor(at / HOUR) || 12}:${String(at % HOUR).padStart(2, '0')}`
}

/** The one of some hours (`12`, `3`, `4:30`) that lies nearest to a place on the clock; the first of two that lie as near. */
export function nearestHour(clock: string, hours: readonly string[]): string | null {
  const away = (hour: string) => {
    const between = Math.abs(minutesOf(clock) - minutesOf(hour))
    return Math.min(between, ROUND - between)
  }
  return hours.length ? hours.reduce((best, hour) => (away(hour) < away(best) ? hour : best)) : null
}
