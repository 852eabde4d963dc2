import type { Schema } from '$lib/api/client'
import { spaced } from '$lib/words'
import { lengthText, MM_PER_INCH, units } from '$lib/units.svelte'

const LITRES_PER_CUBIC_FOOT = 28.316846592
const MINUTES_PER_HOUR = 60

type Span = Schema['Span']

const plain = (value: number, decimals: number) => String(Number(value.toFixed(decimals)))
const range = (span: Span, unit: string, factor = 1, decimals = 0) => {
  const [low, high] = [plain(span.min * factor, decimals), plain(span.max * factor, decimals)]
  return `${low === high ? low : `${low}–${high}`} ${unit}`
}

/** The starting ranges of a pass, as they are said at the machine. */
export function settingsText(settings: Schema['SettingRanges']): string[] {
  const inches = units.unit === 'in'
  const said: (string | null | undefined)[] = [
    range(settings.amps, 'A'),
    settings.volts && range(settings.volts, 'V', 1, 1),
    settings.wireFeedMmPerMin &&
      (inches
        ? range(settings.wireFeedMmPerMin, 'in/min', 1 / MM_PER_INCH)
        : range(settings.wireFeedMmPerMin, 'm/min', 1 / 1000, 1)),
    settings.gasFlowLPerMin &&
      (inches
        ? range(settings.gasFlowLPerMin, 'ft³/h', MINUTES_PER_HOUR / LITRES_PER_CUBIC_FOOT)
        : range(settings.gasFlowLPerMin, 'L/min')),
    settings.stickOutMm &&
      `stick-out ${lengthText(settings.stickOutMm.min)} to ${lengthText(settings.stickOutMm.max)}`,
    settings.cupNumber && `cup ${range(settings.cupNumber, '').trim()}`,
    settings.travelAngleDeg && `angle ${range(settings.travelAngleDeg, '°').replace(' ', '')}`,
    settings.workAngleDeg && `work ${settings.workAngleDeg.min} to ${settings.workAngleDeg.max}°`,
  ]
  return said.filter((one): one is string => !!one)
}

const METALS: Record<Schema['BaseMetal'], string> = {
  carbonSteel: 'carbon steel',
  stainlessSteel: 'stainless steel',
  chromeMoly: 'chrome-moly',
  aluminium: 'aluminium',
  nickelAlloy: 'nickel alloy',
}
const GRINDERS: Record<Schema['GrinderRule'], string> = {
  free: 'Grinder free',
  tacksAndStopsOnly: 'Grinder on tacks and stops only',
  fileOnly: 'File only',
  none: 'No grinder, no file',
}
const MEASURES: Record<Schema['FitUpMeasure'], string> = {
  bevelDegA: 'Bevel, left',
  bevelDegB: 'Bevel, right',
  includedAngleDeg: 'Included angle',
  rootOpeningMm: 'Gap',
  rootFaceMm: 'Root face',
  offsetMm: 'Offset (hi-lo)',
  stripGapMm: 'Gap at the strip',
  ringGapMm: 'Gap of the ring',
}

export const metalName = (metal: Schema['BaseMetal']) => METALS[metal]
export const grinderName = (rule: Schema['GrinderRule']) => GRINDERS[rule]
export const grinders = Object.keys(GRINDERS) as Schema['GrinderRule'][]
export const fitUpMeasureName = (measure: Schema['FitUpMeasure']) => MEASURES[measure]

/** The range that a measure of the fit-up must lie in. */
export const toleranceText = ({ measure, min, max }: Schema['FitUpTolerance']) =>
  measure.endsWith('Deg') || measure.startsWith('bevelDeg')
    ? `${min}–${max}°`
    : min === 0
      ? `up to ${lengthText(max)}`
      : `${lengthText(min)} to ${lengthText(max)}`

/** The rules of a sitting, a line each. */
export function rulesText(rules: Schema['TestRules']): string[] {
  return [
    grinderName(rules.grinder),
    rules.arcStrikeOutsideFails
      ? 'An arc strike outside the groove fails'
      : 'An arc strike outside is marked down',
    rules.timeLimitMinutes ? `${rules.timeLimitMinutes} minutes` : 'No time limit',
    rules.helpAllowed ? 'Help allowed' : 'No help',
    rules.takeDownAllowed ? 'May be taken down; position checked again' : 'Not taken down until it is done',
    ...(rules.stringersOnly ? ['Stringers only'] : []),
    ...(rules.weaveMaxWidthMm ? [`Weave up to ${lengthText(rules.weaveMaxWidthMm)}`] : []),
  ]
}

/** A range of lengths: `1/8 in to 3/4 in`, `3/16 in and up`. */
export function rangeText(span: Schema['RangeMm'] | null | undefined): string {
  if (!span) return 'nothing in common'
  if (span.max == null) return span.min === 0 ? 'any' : `${lengthText(span.min)} and up`
  return span.min === 0
    ? `up to ${lengthText(span.max)}`
    : `${lengthText(span.min)} to ${lengthText(span.max)}`
}

/** Where a specimen is cut. */
export const specimenText = (one: Schema['Specimen']) =>
  `${spaced(one.kind)} ${one.clock ? `at ${one.clock}` : `${lengthText(one.fromMm ?? 0)} to ${lengthText(one.toMm ?? 0)}`}`

const CUT_NAMES: Record<string, [string, string]> = {
  face: ['face bend', 'face bends'],
  root: ['root bend', 'root bends'],
  side: ['side bend', 'side bends'],
  nickBreak: ['nick break', 'nick breaks'],
  tensile: ['tensile', 'tensiles'],
  filletBreak: ['fillet break', 'fillet breaks'],
  macro: ['macro', 'macros'],
}

/** `2 root bends and 2 face bends` from the kinds one by one. */
export const kindsText = (kinds: string[]) =>
  [...Map.groupBy(kinds, (kind) => kind)]
    .map(([kind, ones]) => `${ones.length} ${CUT_NAMES[kind]?.[ones.length === 1 ? 0 : 1] ?? kind}`)
    .join(' and ')
