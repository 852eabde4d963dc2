export const MM_PER_INCH = 25.4
const FINEST = 64

export type Unit = 'in' | 'mm'

/** What the user reads in, inches with °F or millimetres with °C; kept in this browser. */
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
  if (unit === 'mm') return `${Math.round(mm * 10 + 1e-6) / 10} mm` // 6.35 is no binary number
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

const LITRES_PER_CUBIC_FOOT = 28.316846592
const KG_PER_POUND = 0.45359237

/** A quantity that is kept in metric and shown in either pair: the unit, and how many of the kept unit one of it is. */
export type Quantity = Record<Unit, { unit: string; per: number }>

/** Kept in mm. */
export const LENGTH: Quantity = { in: { unit: 'in', per: MM_PER_INCH }, mm: { unit: 'mm', per: 1 } }
export const AREA: Quantity = { in: { unit: 'in²', per: MM_PER_INCH ** 2 }, mm: { unit: 'mm²', per: 1 } }
export const VOLUME: Quantity = { in: { unit: 'in³', per: MM_PER_INCH ** 3 }, mm: { unit: 'cm³', per: 1000 } }
export const MASS: Quantity = { in: { unit: 'lb', per: KG_PER_POUND }, mm: { unit: 'g', per: 0.001 } }
export const MASS_RATE: Quantity = { in: { unit: 'lb/h', per: KG_PER_POUND }, mm: { unit: 'kg/h', per: 1 } }
export const FLOW: Quantity = {
  in: { unit: 'ft³/h', per: LITRES_PER_CUBIC_FOOT / 60 },
  mm: { unit: 'L/min', per: 1 },
}
export const GAS_VOLUME: Quantity = {
  in: { unit: 'ft³', per: LITRES_PER_CUBIC_FOOT },
  mm: { unit: 'L', per: 1 },
}
/** Kept in mm/min. */
export const SPEED: Quantity = { in: { unit: 'in/min', per: MM_PER_INCH }, mm: { unit: 'mm/min', per: 1 } }
/** Kept in kJ/mm. */
export const HEAT: Quantity = { in: { unit: 'kJ/in', per: 1 / MM_PER_INCH }, mm: { unit: 'kJ/mm', per: 1 } }

const DIGITS = 4

/** A number with four digits that count: for showing only. */
export const digits = (value: number) =>
  value === 0 ? '0' : Number(value.toPrecision(DIGITS)).toLocaleString('en-GB', { maximumFractionDigits: 6 })

/** A quantity as text: `0.0248 in²` or `16 mm²`. */
export const quantityText = (kept: number, of: Quantity, unit: Unit = units.unit) =>
  `${digits(kept / of[unit].per)} ${of[unit].unit}`

/** A quantity to be laid out, rounded up to two digits that count. */
export function aboutText(kept: number, of: Quantity, unit: Unit = units.unit): string {
  const shown = kept / of[unit].per
  const step = 10 ** (Math.floor(Math.log10(Math.max(shown, 1e-9))) - 1)
  return `${digits(Math.ceil(shown / step - 1e-9) * step)} ${of[unit].unit}`
}

/** Degrees as they are shown, of degrees Celsius. */
export const degrees = (celsius: number, unit: Unit = units.unit) =>
  unit === 'in' ? celsius * 1.8 + 32 : celsius

/** Degrees Celsius of degrees as they are shown. */
export const celsius = (shown: number, unit: Unit = units.unit) =>
  unit === 'in' ? (shown - 32) / 1.8 : shown

export const degreeUnit = (unit: Unit = units.unit) => (unit === 'in' ? '°F' : '°C')

/** A temperature as text: `350 °F` or `177 °C`. */
export const degreesText = (of: number, unit: Unit = units.unit) =>
  `${Math.round(degrees(of, unit))} ${degreeUnit(unit)}`

const NUMBER = String.raw`(?:\d+[ -])?\d+\/\d+|\d+\.\d+|\.\d+|\d+`
const RUN = `(?:${NUMBER})(?:(?: to | or | a | o | × |–)(?:${NUMBER}))*`
// A whole number of inches is told from "3 in a row" by what follows.
const INCHES = new RegExp(
  `(?<![\\w./])(${RUN}) in(?=$|[,.;:)"]| (?:in|of|below|above|from|long|wide|high|deep|apart|and|or|over|at|plate|wire|rod|back|either|every|each|free|past|behind|beyond|out|to|de|del|bajo|en|y|o|por|cada|fuera|libre|dentro|atrás|adelante|hasta|más|para)\\b)|(?<![\\w./])((?:\\d+[ -])?\\d+\\/\\d+(?: (?:to|or|a|o) (?:${NUMBER}))?|\\d*\\.\\d+) in\\b`,
  'g',
)
const MILLIMETRES = new RegExp(`(?<![\\w./])(${RUN}) mm\\b(?!²|³|/)`, 'g')
const NUMBERS = new RegExp(NUMBER, 'g')
const CELSIUS = /(-?\d+(?:\.\d+)?) °C/g
const FAHRENHEIT = /(\d+)(?:( to | a )(\d+))? °F/g
const inCelsius = (of: string) => Math.round(celsius(Number(of), 'in'))

const read = (number: string) =>
  number.split(/[ -]/).reduce((sum, part) => {
    const [top, bottom] = part.split('/').map(Number)
    return sum + top! / (bottom ?? 1)
  }, 0)

/** Words with lengths and temperatures in them, as somebody wrote them, in the units that are shown. */
export function inUnits(words: string, unit: Unit = units.unit): string {
  return unit === 'mm'
    ? words
        .replace(INCHES, (_, run?: string, fraction?: string) => {
          const said = (run ?? fraction)!
          return `${said.replace(NUMBERS, (one) => lengthText(read(one) * MM_PER_INCH, 'mm').replace(' mm', ''))} mm`
        })
        .replace(
          FAHRENHEIT,
          (_, from: string, to?: string, end?: string) =>
            `${inCelsius(from)}${to ? `${to}${inCelsius(end!)}` : ''} °C`,
        )
    : words
        .replace(
          MILLIMETRES,
          (_, run: string) =>
            `${run.replace(NUMBERS, (one) => lengthText(read(one), 'in').replace(' in', ''))} in`,
        )
        .replace(CELSIUS, (_, one: string) => degreesText(Number(one), 'in'))
}
