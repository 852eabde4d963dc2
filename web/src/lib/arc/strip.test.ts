import { describe, expect, it } from 'vitest'
import { comparedRows, clockText, momentText } from './arc-words'
import { bandOf, lineOf, scalesOf, tickOf } from './strip'

const y = (value: number) => 100 - value

describe('a strip', () => {
  it('breaks where nothing was received', () => {
    expect(lineOf([0, 10, null, 20], 30, y)).toBe('M0.0 100.0L10.0 90.0M30.0 80.0')
    expect(bandOf([1, null, 2, 2], [3, null, 4, 5], 30, y)).toBe(
      'M0.0 97.0L0.0 99.0ZM20.0 96.0L30.0 95.0L30.0 98.0L20.0 98.0Z',
    )
  })

  it('holds one point and none', () => {
    expect(lineOf([5], 30, y)).toBe('M0.0 95.0')
    expect(lineOf([], 30, y)).toBe('')
  })

  it('leaves room over the most current', () => {
    const of = (amps: (number | null)[]) =>
      scalesOf({ stepS: 1, amps, volts: [], voltsMin: [], voltsMax: [], feed: null }).amps
    expect(of([120, null, 140])).toBe(200)
    expect(of([null])).toBe(50)
    expect(of([])).toBe(50)
  })

  it('has a tick at round times, and few of them', () => {
    for (const seconds of [3, 20, 61, 240, 1200, 1800])
      expect(seconds / tickOf(seconds)).toBeLessThanOrEqual(7)
    expect(tickOf(60)).toBe(10)
  })
})

const run = {
  fromS: 2,
  toS: 62,
  arcSeconds: 60,
  lostSeconds: 0,
  meanAmps: 118,
  meanVolts: 24.5,
  referenceVolts: 24.7,
  longArcShare: 0.24,
  rhythm: { periodS: 1.5, cv: 0.34 },
  failedStarts: 1,
  stuck: 0,
  driftVolts: 1.2,
  outsideCardShare: 0,
  tipDriftShare: null,
  feedSpread: null,
  dipsPerMin: null,
  heatKJPerMm: null,
  travelMmPerMin: null,
}

describe('the words', () => {
  it('say what a moment shows and how much of it', () => {
    expect(momentText({ atS: 20, what: 'longArc', lastsS: 4.2 }, [run])).toBe(
      'Arc long for 4.2 s; 24 % of the run',
    )
    expect(momentText({ atS: 30, what: 'irregular', lastsS: 2.6 }, [run])).toBe(
      'Lost the beat: 2.6 s, usual 1.5 s',
    )
    expect(momentText({ atS: 0.4, what: 'failedStart', lastsS: 0.6 }, [run])).toBe('Arc went out after 0.6 s')
    expect(momentText({ atS: 30, what: 'tipDrift', lastsS: 12 }, [{ ...run, tipDriftShare: -0.12 }])).toBe(
      'Tip moved out: current down 12 % at the same feed',
    )
  })

  it('round a time over the minute', () => {
    expect(clockText(59.6)).toBe('1:00')
    expect(clockText(5)).toBe('0:05')
  })

  it('tell of a wire no long arc, and hold a bead beside the last clean one', () => {
    const arc = {
      arcSeconds: 60,
      lostSeconds: 0,
      meanAmps: 190,
      meanVolts: 17.2,
      starts: 1,
      failedStarts: 0,
      stuck: 0,
      longArcShare: null,
      rhythmPeriodS: null,
      rhythmCv: null,
      driftVolts: 0.2,
      outsideCardShare: 0.1,
      tipDriftShare: -0.09,
      feedSpread: 0.02,
    }
    const rows = comparedRows(arc, { ...arc, arcSeconds: 75 })
    expect(rows.map((row) => row.name)).not.toContain('Long arc')
    expect(rows[0]).toEqual({ name: 'Arc', now: '1:00', then: '1:15' })
    expect(rows.find((row) => row.name === 'Tip')?.now).toBe('9 % further out by current')
    expect(comparedRows(arc, null)[0]?.then).toBeNull()
  })
})
