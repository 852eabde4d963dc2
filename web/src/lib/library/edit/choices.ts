import type { Schema } from '$lib/api/client'

type Named<T extends string> = [T, string][]

export const FORMS: Named<Schema['JointForm']> = [
  ['singleV', 'V, bevel'],
  ['singleJ', 'J or U'],
  ['squareButt', 'Square butt'],
  ['teeFillet', 'Tee'],
  ['lapFillet', 'Lap or socket'],
  ['branch', 'Branch'],
  ['plug', 'Plug'],
]
export const WELDS: Named<Schema['WeldKind']> = [
  ['groove', 'Groove'],
  ['fillet', 'Fillet'],
  ['plug', 'Plug'],
  ['tack', 'Tack'],
]
export const PRODUCTS: Named<Schema['Product']> = [
  ['plate', 'Plate'],
  ['pipe', 'Pipe'],
  ['sheet', 'Sheet'],
]
export const METALS: Named<Schema['BaseMetal']> = [
  ['carbonSteel', 'Carbon steel'],
  ['stainlessSteel', 'Stainless steel'],
  ['chromeMoly', 'Chrome-moly steel'],
  ['aluminium', 'Aluminium'],
  ['nickelAlloy', 'Nickel alloy'],
]
export const RUNS: Named<Schema['Progression']> = [
  ['none', 'Not vertical'],
  ['uphill', 'Uphill'],
  ['downhill', 'Downhill'],
]
export const BACKINGS: Named<Schema['BackingKind']> = [
  ['none', 'Open'],
  ['strip', 'Strip'],
  ['gas', 'Gas'],
  ['insert', 'Insert ring'],
]
export const STAGES: Named<Schema['Stage']> = [
  ['root', 'Root'],
  ['hot', 'Hot'],
  ['fill', 'Fill'],
  ['cap', 'Cap'],
]
export const PROCESSES: Named<Schema['Process']> = [
  ['smaw', 'SMAW'],
  ['gtaw', 'GTAW'],
  ['gmaw', 'GMAW'],
  ['fcawG', 'FCAW-G'],
  ['fcawS', 'FCAW-S'],
]
export const POLARITIES: Named<Schema['Polarity']> = [
  ['dcep', 'DCEP'],
  ['dcen', 'DCEN'],
  ['ac', 'AC'],
]
export const SPECIMENS: Named<string> = [
  ['face', 'Face bend'],
  ['root', 'Root bend'],
  ['side', 'Side bend'],
  ['nickBreak', 'Nick break'],
  ['tensile', 'Tensile'],
  ['filletBreak', 'Fillet break'],
  ['macro', 'Macro'],
  ['radiograph', 'Radiograph'],
]
/** The positions that a joint can be tested in (AWS A3.0). */
export const positionsFor = (product: Schema['Product'], isFillet: boolean) =>
  product === 'pipe'
    ? isFillet
      ? ['1F', '2F', '2FR', '4F', '5F']
      : ['1G', '2G', '5G', '6G', '6GR']
    : isFillet
      ? ['1F', '2F', '3F', '4F']
      : ['1G', '2G', '3G', '4G']
export const POSITIONS = ['1G', '2G', '3G', '4G', '5G', '6G', '6GR', '1F', '2F', '2FR', '3F', '4F', '5F']

/** The beads of each layer as they are typed: `1 2 3`. */
export const layersIn = (text: string) =>
  text
    .split(/[^0-9]+/)
    .filter(Boolean)
    .map(Number)

/** An id of letters and digits from a name, that is not taken yet. */
export function idFrom(name: string, taken: string[]): string {
  const plain = name
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9]+/g, ' ')
    .trim()
    .split(' ')
    .map((word, index) => (index ? word.charAt(0).toUpperCase() + word.slice(1) : word.toLowerCase()))
    .join('')
    .slice(0, 30)
  const base = plain || 'one'
  for (let number = 1; ; number++) {
    const id = number === 1 ? base : `${base}${number}`
    if (!taken.includes(id)) return id
  }
}

/** The settings that mean something for a process, beside amps. */
export const settingsOf = (process: Schema['Process']): (keyof Schema['SettingRanges'])[] =>
  process === 'smaw'
    ? ['travelAngleDeg', 'workAngleDeg']
    : process === 'gtaw'
      ? ['gasFlowLPerMin', 'cupNumber']
      : process === 'fcawS'
        ? ['volts', 'wireFeedMmPerMin', 'stickOutMm', 'travelAngleDeg', 'workAngleDeg']
        : ['volts', 'wireFeedMmPerMin', 'gasFlowLPerMin', 'stickOutMm', 'travelAngleDeg', 'workAngleDeg']
