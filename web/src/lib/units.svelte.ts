export const MM_PER_INCH = 25.4
const FINEST = 64

export type Unit = 'in' | 'mm'

/** What the user reads lengths in; kept in this browser. */
class Units {
  unit = $state<Unit>(localStorage.getItem('gradus.unit') === 'mm' ? 'mm' : 'in')

  set(unit: Unit) {
    this.unit = unit
    localStorage.setItem('gradus.unit', unit)
  }
}

export const units = new Units()

/** A length in inches as whole, top and bottom of a fraction in lowest terms, to the nearest 1/64. For showing only. */
export function inchParts(mm: number): { whole: number; top: number; bottom: number } {
  let parts = Math.round((mm / MM_PER_INCH) * FINEST)
  const whole = Math.floor(parts / FINEST)
  parts -= whole * FINEST
  let bottom = FINEST
  while (parts > 0 && parts % 2 === 0) {
    parts /= 2
    bottom /= 2
  }
  return { whole, top: parts, bottom }
}

/** A length as text: `1 1/2 in` or `38.1 mm`. */
export function lengthText(mm: number, unit: Unit = units.unit): string {
  if (unit === 'mm') return `${Number(mm.toFixed(1))} mm`
  const { whole, top, bottom } = inchParts(mm)
  // What is not zero never looks like it.
  if (whole === 0 && top === 0 && mm > 0) return `${Number((mm / MM_PER_INCH).toPrecision(2))} in`
  if (top === 0) return `${whole} in`
  return `${whole > 0 ? `${whole} ` : ''}${top}/${bottom} in`
}

/** A length as text without its unit, where the unit is plain. */
export const bareText = (mm: number) => lengthText(mm).replace(/ (in|mm)$/, '')

/** A length without its unit, as the shop writes it: a fraction where it is one, else decimals (wire is 0.045, not 3/64). */
export function exactText(mm: number, unit: Unit = units.unit): string {
  if (unit === 'mm') return String(Number(mm.toFixed(3)))
  const parts = (mm / MM_PER_INCH) * FINEST
  return Math.abs(parts - Math.round(parts)) > 1e-6
    ? String(Number((mm / MM_PER_INCH).toFixed(4)))
    : lengthText(mm, 'in').replace(' in', '')
}

/** Sizes to tap, in mm: sixty-fourths of an inch, or tenths of a millimetre. */
export function chips(sixtyFourths: number[], tenths: number[], unit: Unit = units.unit): number[] {
  return unit === 'in' ? sixtyFourths.map((n) => (n * MM_PER_INCH) / FINEST) : tenths.map((n) => n / 10)
}
