import type { Schema } from '$lib/api/client'

type Stage = Schema['Stage']

const STAGES: Record<Stage, string> = { fitUp: 'Fit-up', root: 'Root', hot: 'Hot', fill: 'Fill', cap: 'Cap' }
const DECISIONS = { testNow: 'Test now', practise: 'Practise', hold: 'Hold' } as const
const VERDICTS = { accept: 'Accept', reject: 'Reject', 'cannot-judge': 'Not yet judged' } as const
const PROCESSES: Record<string, string> = {
  smaw: 'SMAW',
  gtaw: 'GTAW',
  gmaw: 'GMAW',
  fcawG: 'FCAW-G',
  fcawS: 'FCAW-S',
}
const TECHNIQUES: Record<Schema['BeadTechnique'], string> = {
  stringer: 'Stringer',
  weave: 'Weave',
  whipAndPause: 'Whip and pause',
  drag: 'Drag',
  layWire: 'Lay wire',
  dip: 'Dip',
  backFed: 'Back-fed',
  shortArc: 'Short arc',
}
const MEASURES: Record<string, string> = {
  depthMm: 'Depth',
  heightMm: 'Height',
  lengthMm: 'Length',
  diameterMm: 'Diameter',
  widthMm: 'Width',
  count: 'How many',
  legAMm: 'Left leg',
  legBMm: 'Right leg',
  legAskedMm: 'Leg asked for',
  legDifferenceMm: 'Difference of the legs',
  throatMm: 'Throat',
  throatAskedMm: 'Throat asked for',
  convexityMm: 'Bulge of the face',
  faceWidthMm: 'Width of the face',
  faceHeightThereMm: 'Face over flush there',
  atMm: 'Place along the weld',
  weldLengthMm: 'Length of the weld',
}

const CODES: Record<string, string> = {
  'aws-d1.1': 'AWS D1.1',
  'aws-d1.2': 'AWS D1.2',
  'aws-d1.3': 'AWS D1.3',
  'aws-d1.6': 'AWS D1.6',
  'asme-ix': 'ASME IX',
  'api-1104': 'API 1104',
  'iso-9606-1': 'ISO 9606-1',
}

const STATES: Record<Schema['CouponState'], string> = {
  planned: 'Planned',
  cut: 'Cut',
  fittedUp: 'Fitted up',
  inWeld: 'In weld',
  lookedAt: 'Looked at',
  cutAndBroken: 'Cut and broken',
  closed: 'Closed',
  void: 'Void',
}
const TIMERS: Record<Schema['BenchTimer'], string> = {
  purge: 'Purge',
  cool: 'Cool',
  arc: 'Arc',
  sitting: 'Sitting',
}
const VOID: Record<Schema['VoidReason'], string> = {
  quenched: 'Quenched',
  moved: 'Moved',
  helped: 'Helped',
  wrongPosition: 'Wrong position',
  toesDressed: 'Toes dressed to hide undercut',
  capBuiltToMask: 'Cap built to mask a thin root',
  wrongTest: 'Wrong test',
  other: 'Another reason',
}
const REPAIRS: Record<Schema['RepairAction'], string> = {
  cool: 'Cool',
  grind: 'Grind',
  taper: 'Taper',
  refill: 'Refill',
  cutOutAndRegap: 'Cut out and re-gap',
  file: 'File',
}

const CHOICES: Record<string, string> = {
  small: 'under 1 diameter',
  right: '1 to 1½',
  large: 'over 1½',
  feathered: 'feathered',
  cutOut: 'cut out',
  asIs: 'as it was',
  brushed: 'brush alone',
  chipped: 'chipped',
  picked: 'picked',
  ground: 'ground',
}

export const askChoice = (choice: string) => CHOICES[choice] ?? choice
export const stateName = (state: Schema['CouponState']) => STATES[state]
export const timerName = (timer: Schema['BenchTimer']) => TIMERS[timer]
export const voidName = (reason: Schema['VoidReason']) => VOID[reason]
export const voidReasons = Object.keys(VOID) as Schema['VoidReason'][]
export const repairName = (action: Schema['RepairAction']) => REPAIRS[action]
export const repairs = Object.keys(REPAIRS) as Schema['RepairAction'][]
/** The codes whose rules on welders are known here. */
export const QUALIFYING = [
  'aws-d1.1',
  'aws-d1.2',
  'aws-d1.3',
  'aws-d1.6',
  'asme-ix',
  'api-1104',
  'iso-9606-1',
] as const
export type QualifyingCode = (typeof QUALIFYING)[number]

const VARIABLES: Record<string, string> = {
  product: 'Plate or pipe',
  weld: 'Groove or fillet',
  position: 'Position',
  thicknessMm: 'Thickness',
  outsideDiameterMm: 'Outside diameter',
  backing: 'Backing',
  process: 'Process',
  fNumber: 'Filler',
  fillerGroup: 'Filler group',
  progression: 'Run',
  layers: 'Layers',
  joint: 'Joint',
  tests: 'The test itself',
}
/** A variable of a welder's qualification, in words. */
export const variableName = (variable: string) => VARIABLES[variable] ?? variable

export const codeName = (code: string) => CODES[code] ?? code
export const stageName = (stage: Stage) => STAGES[stage]
export const decisionName = (kind: keyof typeof DECISIONS) => DECISIONS[kind]
export const verdictName = (kind: keyof typeof VERDICTS) => VERDICTS[kind]
export const processName = (process: string) => PROCESSES[process] ?? process
export const techniqueName = (technique: Schema['BeadTechnique']) => TECHNIQUES[technique]
export const techniques = Object.keys(TECHNIQUES) as Schema['BeadTechnique'][]
export const measureName = (measure: string) => MEASURES[measure] ?? measure

/** `Fill, layer 3, bead 2` from what the server says of a bead. */
/** A bead by its layer and its letter there, as on the drawing: 3b; the root by name. `many` says that its layer has several. */
export function beadCode(
  bead: { stage: Stage; layer: number; beadInLayer: number; patch?: boolean },
  many: boolean,
) {
  if (bead.patch) return `patch ${bead.beadInLayer}`
  const letter = many || bead.beadInLayer > 1 ? String.fromCharCode(96 + bead.beadInLayer) : ''
  return bead.stage === 'root' && !letter ? 'root' : `${bead.layer}${letter}`
}

export function beadName(bead: {
  stage: Stage
  layer: number
  beadInLayer: number
  half?: string | null
  patch?: boolean
}) {
  if (bead.patch) return `Patch ${bead.beadInLayer}`
  const half = bead.half ? ` (${spaced(bead.half)} half)` : ''
  if (bead.stage === 'root') return `Root${bead.beadInLayer > 1 ? `, bead ${bead.beadInLayer}` : ''}${half}`
  return `${stageName(bead.stage)}, layer ${bead.layer}, bead ${bead.beadInLayer}${half}`
}

/** A name of the data as it is said: `lowHydrogen` is `low hydrogen`. */
export const spaced = (name: string) => name.replace(/([A-Z])/g, ' $1').toLowerCase()

export const percent = (chance: number) => `${Math.round(chance * 100)}\u00a0%`

/** A chance as a person would say it. */
export function chanceSentence(chance: Schema['ChanceView']): string {
  const basis =
    chance.coupons === 0
      ? 'no whole coupon on this test yet'
      : `${chance.cleanCoupons} of ${chance.coupons} ${chance.coupons === 1 ? 'coupon' : 'coupons'} clean`
  if (chance.tooLittleToTell)
    return `Too little to tell: ${basis}, and the truth may lie anywhere from ${percent(chance.lower)} to ${percent(chance.upper)}.`
  return `About ${Math.round(chance.mean * 10)} in 10 would pass; between ${percent(chance.lower)} and ${percent(chance.upper)} (${basis}).`
}

/** An element as it is said: the root at the bottom. */
export function elementName(element: string): string {
  const [stage = '', zone = 'all'] = element.split('/')
  const name = stage === 'fitUp' ? 'the fit-up' : stage === 'hot' ? 'the hot pass' : `the ${stage}`
  return zone === 'all' ? name : `${name} at the ${zone === 'side' ? 'sides' : zone}`
}

const SHAPES: Record<Schema['FindingShape'], string> = {
  point: 'A single spot',
  cluster: 'Cluster',
  scatter: 'Scattered',
  centreLine: 'Centre line',
  oneWall: 'One wall',
  upperToe: 'Upper toe',
  lowerToe: 'Lower toe',
  bothToes: 'Both toes',
  atStart: 'At a start',
  atStop: 'At a stop',
  atTack: 'At a tack',
  whole: 'All along',
}
/** How a finding lies in the weld. */
export const shapeName = (shape: Schema['FindingShape']) => SHAPES[shape]
