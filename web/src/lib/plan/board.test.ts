import { describe, expect, it } from 'vitest'
import { brief, outcome, tables, type Cell } from './board'

const cell = (parts: Partial<NonNullable<Cell['parts']>[number]>[], over: Partial<Cell> = {}) =>
  ({
    kind: 'underRules',
    testId: 'P8',
    name: 'Full coupon, as under test',
    drillId: null,
    parts: parts.map((part) => ({ drillId: null, name: '', times: 1, minutes: 1, ...part })),
    ...over,
  }) as Cell

describe('the board of a week', () => {
  it('says what fills a period in a few words', () => {
    expect(brief(cell([{ times: 2 }]))).toBe('whole ×2')
    expect(brief(cell([{}, { drillId: 'capOnly', name: 'Cap only, on a filled blank', times: 3 }]))).toBe(
      'whole + cap ×3',
    )
    expect(brief(cell([{}], { kind: 'coached', name: 'Full coupon, coached, part 2 of 3' }))).toBe(
      'coached 2/3',
    )
    expect(brief(cell([], { kind: null, parts: null }))).toBe('P8 sitting')
    expect(
      brief(cell([], { kind: 'drill', drillId: 'rootOnly', name: 'Root only, 4 times', parts: null })),
    ).toBe('root')
  })

  it('tells what came of a period that is over', () => {
    const done = (made: number, clean: number, open = 0) => ({
      studentId: '',
      slot: 0,
      couponId: '',
      made,
      clean,
      open,
    })
    expect(outcome(undefined, done(2, 2), false)).toBe('clean')
    expect(outcome(undefined, done(2, 1), true)).toBe('fault') // who came after all was not absent
    expect(outcome(undefined, done(1, 0, 1), false)).toBe('open')
    expect(outcome(cell([]), undefined, true)).toBe('absent')
    expect(outcome(cell([]), undefined, false)).toBe('nothing')
    expect(outcome(undefined, undefined, false)).toBe(null)
  })

  it('splits a wide week by whole days and never within one', () => {
    expect(tables([0, 1, 3, 4, 6, 7], 3, 4)).toEqual([
      [0, 1, 3, 4],
      [6, 7],
    ])
    expect(tables([0, 1, 2], 3, 1)).toEqual([[0, 1, 2]])
    expect(tables([], 3, 4)).toEqual([])
  })
})
