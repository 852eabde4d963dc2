import type { Schema } from '$lib/api/client'

type Moment = Schema['MomentView']
type Run = Schema['ArcRun']

/** Seconds as a clock has them: 0:32. */
export const clockText = (seconds: number) =>
  `${Math.floor(Math.round(seconds) / 60)}:${String(Math.round(seconds) % 60).padStart(2, '0')}`

const lasting = (seconds: number) => (seconds < 10 ? `${seconds.toFixed(1)} s` : `${Math.round(seconds)} s`)
const share = (value: number) => `${Math.round(value * 100)} %`

/** The run that a moment lies in, or that follows it. */
const runOf = (moment: Moment, runs: Run[]) =>
  runs.find((run) => moment.atS >= run.fromS - 0.01 && moment.atS < run.toS) ??
  runs.find((run) => run.fromS >= moment.atS)

/** A moment in words, with what there is to be seen. */
export function momentText(moment: Moment, runs: Run[]): string {
  const run = runOf(moment, runs)
  switch (moment.what) {
    case 'longArc':
      return `Arc long for ${lasting(moment.lastsS)}${run?.longArcShare != null ? `; ${share(run.longArcShare)} of the run` : ''}`
    case 'stuckStart':
      return `Stuck for ${lasting(moment.lastsS)}`
    case 'failedStart':
      return `Arc went out after ${lasting(moment.lastsS)}`
    case 'irregular':
      return `Lost the beat: ${lasting(moment.lastsS)}${run?.rhythm ? `, usual ${lasting(run.rhythm.periodS)}` : ''}`
    case 'tipDrift':
      return `Tip moved ${(run?.tipDriftShare ?? 0) < 0 ? 'out' : 'in'}: current ${(run?.tipDriftShare ?? 0) < 0 ? 'down' : 'up'} ${share(Math.abs(run?.tipDriftShare ?? 0))} at the same feed`
    case 'feedTrouble':
      return `Wire stuttered${run?.feedSpread != null ? `; feed varies by ${share(run.feedSpread)}` : ''}`
    case 'outsideCard':
      return `Outside the card for ${lasting(moment.lastsS)}`
  }
}

/** How a rhythm is kept: steady, uneven, irregular. The limits are those of the thresholds. */
export const rhythmText = (arc: Schema['BeadArc']): string =>
  arc.rhythmPeriodS == null || arc.rhythmCv == null
    ? 'none seen'
    : `${arc.rhythmPeriodS.toFixed(1)} s, ${arc.rhythmCv <= 0.15 ? 'steady' : arc.rhythmCv <= 0.3 ? 'uneven' : 'irregular'}`

/** What is compared between two beads: the name, and what each has. A bead of a wire has no long arc, one by hand no tip. */
export function comparedRows(
  arc: Schema['BeadArc'],
  clean: Schema['BeadArc'] | null,
): { name: string; now: string; then: string | null }[] {
  const row = (name: string, of: (one: Schema['BeadArc']) => string | null) => {
    const now = of(arc)
    return now == null ? [] : [{ name, now, then: clean ? (of(clean) ?? 'not told') : null }]
  }
  return [
    ...row('Arc', (one) => clockText(one.arcSeconds)),
    ...row('Starts', (one) =>
      one.failedStarts || one.stuck
        ? `${one.starts}${one.failedStarts ? `, ${one.failedStarts} failed` : ''}${one.stuck ? `, stuck ${one.stuck}` : ''}`
        : `${one.starts}`,
    ),
    ...row('Current', (one) => `${Math.round(one.meanAmps)} A`),
    ...row('Volts', (one) => `${one.meanVolts.toFixed(1)} V`),
    ...row('Long arc', (one) => (one.longArcShare == null ? null : share(one.longArcShare))),
    ...row('Beat', (one) => (one.longArcShare == null ? null : rhythmText(one))),
    ...row('Arc grew by', (one) =>
      one.driftVolts == null || one.longArcShare == null ? null : `${one.driftVolts.toFixed(1)} V`,
    ),
    ...row('Tip', (one) =>
      one.tipDriftShare == null
        ? null
        : Math.abs(one.tipDriftShare) < 0.005
          ? 'kept'
          : `${share(Math.abs(one.tipDriftShare))} ${one.tipDriftShare < 0 ? 'further out' : 'nearer'} by current`,
    ),
    ...row('Feed varies', (one) => (one.feedSpread == null ? null : share(one.feedSpread))),
    ...row('Off the card', (one) => (one.outsideCardShare == null ? null : share(one.outsideCardShare))),
  ]
}
