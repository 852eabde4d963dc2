import type { Schema } from '$lib/api/client'
import type { QualifyingCode } from '$lib/words'

/** A weld that is asked for: by a job, or of one test. */
export type AskedWeld = {
  product: 'plate' | 'pipe'
  weld: 'groove' | 'fillet'
  position: string
  thicknessMinMm: number
  thicknessMaxMm: number
  diameterMm: number
  backing: 'yes' | 'no'
  process: string
  fNumber: number
  progression: 'uphill' | 'downhill'
}

export const PRODUCTS: { id: AskedWeld['product']; name: string }[] = [
  { id: 'plate', name: 'Plate' },
  { id: 'pipe', name: 'Pipe' },
]
export const WELDS: { id: AskedWeld['weld']; name: string }[] = [
  { id: 'groove', name: 'Groove' },
  { id: 'fillet', name: 'Fillet' },
]
export const ROOTS: { id: AskedWeld['backing']; name: string }[] = [
  { id: 'yes', name: 'Backed' },
  { id: 'no', name: 'Open root' },
]
export const RUNS: { id: AskedWeld['progression']; name: string }[] = [
  { id: 'uphill', name: 'Uphill' },
  { id: 'downhill', name: 'Downhill' },
]
export const PROCESSES = ['SMAW', 'GTAW', 'GMAW', 'GMAW-S', 'FCAW-G', 'FCAW-S']

const AMERICAN = ['F', 'H', 'V', 'OH']
const ISO = ['PA', 'PB', 'PC', 'PD', 'PE', 'PF', 'PG', 'PH', 'PJ', 'H-L045', 'J-L045']
const CLIMBING = ['V', 'PF', 'PG', 'PH', 'PJ', 'H-L045', 'J-L045']

/** The positions of a weld as a code names them. */
export const positionsOf = (code: string) => (code === 'iso-9606-1' ? ISO : AMERICAN)

/** A position of AWS A3.0 as ISO 6947 names it, and back: V that is run down is PG, a horizontal fillet PB. */
export function positionIn(code: string, weld: Pick<AskedWeld, 'position' | 'weld' | 'progression'>): string {
  const wanted = positionsOf(code)
  if (wanted.includes(weld.position)) return weld.position
  const isFillet = weld.weld === 'fillet'
  const iso: Record<string, string> = {
    F: 'PA',
    H: isFillet ? 'PB' : 'PC',
    V: weld.progression === 'downhill' ? 'PG' : 'PF',
    OH: isFillet ? 'PD' : 'PE',
  }
  const american: Record<string, string> = { PA: 'F', PB: 'H', PC: 'H', PD: 'OH', PE: 'OH' }
  return code === 'iso-9606-1' ? iso[weld.position]! : (american[weld.position] ?? 'V')
}

/** Whether a weld climbs or falls in a position, so that its run is asked. */
export const climbs = (position: string) => CLIMBING.includes(position)

/** The question of the job page, kept in this browser. */
export type Job = { code: QualifyingCode; aim: Schema['CoverageAim']; welds: AskedWeld[] }
const KEY = 'gradus.library.job'
export const keptJob = () => JSON.parse(localStorage.getItem(KEY) ?? 'null') as Job | null
export const keepJob = (job: Job) => localStorage.setItem(KEY, JSON.stringify(job))
