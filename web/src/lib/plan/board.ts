import type { Schema } from '$lib/api/client'

export type Cell = Schema['PlannedCell']
export type Choice = { studentId: string; slot: number }

/** One class on the board: its students, and only the slots in which any of them comes or did something. */
export type Block = {
  name: string
  slots: number[]
  rows: Schema['PlanStudent'][][]
}

// So few periods leave room for two tables side by side.
const FEW_SLOTS = 5
const LEAST_ROWS = 4

/** The slots of whole days in as many tables as it takes, so that none is wider than so many. */
export function tables(slots: number[], perDay: number, most: number): number[][] {
  const dayOf = (slot: number) => Math.floor(slot / perDay)
  const all: number[][] = []
  for (const slot of slots) {
    const last = all.at(-1)
    const day = slots.filter((one) => dayOf(one) === dayOf(slot))
    if (last && (dayOf(last.at(-1)!) === dayOf(slot) || last.length + day.length <= most)) last.push(slot)
    else all.push([slot])
  }
  return all
}

/** The classes of a week, each with its own periods, so that no cell stands where nobody ever comes. */
export function blocks(week: Schema['WeekView'], cells: Cell[], wide: boolean): Block[] {
  return [...Map.groupBy(week.students, (one) => one.className)].map(([name, students]) => {
    const ids = new Set(students.map((one) => one.id))
    const slots = new Set([
      ...students.flatMap((one) => [...one.comes, ...one.away]),
      ...[...cells, ...week.done].filter((one) => ids.has(one.studentId)).map((one) => one.slot),
    ])
    const sorted = [...slots].sort((one, other) => one - other)
    const half = Math.ceil(students.length / 2)
    const isSplit = wide && sorted.length <= FEW_SLOTS && students.length > LEAST_ROWS
    return {
      name,
      slots: sorted,
      rows: isSplit ? [students.slice(0, half), students.slice(half)] : [students],
    }
  })
}

/** A planned period in a few words: whole + cap 2. */
export function brief(cell: Cell): string {
  if (!cell.kind) return `${cell.testId} sitting`
  const whole = cell.kind === 'coached' ? 'coached' : 'whole'
  const parts = cell.parts ?? [{ drillId: cell.drillId, name: cell.name, times: 1 }]
  const words = parts.map((part) => {
    const word = part.drillId ? drillWord(part.name) : whole
    return part.times > 1 ? `${word} ×${part.times}` : word
  })
  const part = /, part (\d+) of (\d+)$/.exec(cell.name)
  return words.join(' + ') + (part ? ` ${part[1]}/${part[2]}` : '')
}

/** The first word tells a drill from the others of its test: root, cap, restart. */
const drillWord = (name: string) => (name.split(/[ ,]/)[0] ?? name).toLowerCase()

/** How a kind of work is drawn. */
export const KINDS: Record<string, string> = { underRules: 'whole', coached: 'beside', drill: 'part' }
export const kindOf = (cell: Cell) => (cell.kind ? KINDS[cell.kind]! : 'sitting')

export type Outcome = 'clean' | 'fault' | 'open' | 'absent' | 'nothing'

/** What came of a period that is over or running; null where nothing was planned and nothing made. */
export function outcome(
  cell: Cell | undefined,
  done: Schema['SlotDone'] | undefined,
  away: boolean,
): Outcome | null {
  if (done) return done.open > 0 ? 'open' : done.clean === done.made ? 'clean' : 'fault'
  if (away) return 'absent'
  return cell ? 'nothing' : null
}

export const OUTCOMES: Record<Outcome, string> = {
  clean: 'came out clean',
  fault: 'had a fault',
  open: 'in work',
  absent: 'absent',
  nothing: 'nothing made',
}

/** The chance after what is planned, of the test that a student works on first: what each period adds, by what a clean look is worth. */
export function chanceAfter(student: Schema['PlanStudent'], cells: Cell[]): number | null {
  if (student.chance == null) return null
  const gain = cells
    .filter((cell) => cell.studentId === student.id && cell.testId === student.testId)
    .reduce((sum, cell) => sum + cell.gain, 0)
  return Math.min(0.99, student.chance + student.sound * gain)
}

/** Cells ahead that cannot be kept any more, and why: the booth is out, or the student does not come. */
export function lost(week: Schema['WeekView']): { cell: Cell; why: string }[] {
  const out = new Map(week.booths.filter((one) => one.closedWhy).map((one) => [one.id, one]))
  const students = new Map(week.students.map((one) => [one.id, one]))
  return week.cells
    .filter((cell) => cell.slot >= week.firstOpen)
    .flatMap((cell) => {
      const booth = out.get(cell.boothId)
      const student = students.get(cell.studentId)
      if (booth) return [{ cell, why: `Booth ${booth.number} is out: ${booth.closedWhy}` }]
      if (student?.away.includes(cell.slot)) return [{ cell, why: `${student.name} is absent` }]
      return []
    })
}
