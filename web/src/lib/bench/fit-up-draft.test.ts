// @vitest-environment jsdom
import { beforeEach, describe, expect, it } from 'vitest'
import type { Schema } from '$lib/api/client'
import { FitUpDraft } from './fit-up-draft.svelte'

const coupon = (change: Partial<Schema['CouponView']> = {}) =>
  ({
    id: 'c1',
    test: {
      product: 'pipe',
      fitUp: {
        points: ['12', '3', '6', '9'],
        tolerances: ['includedAngleDeg', 'rootOpeningMm', 'rootFaceMm', 'offsetMm'].map((measure) => ({
          measure,
        })),
      },
      joint: {
        bevelDegA: 37.5,
        bevelDegB: 37.5,
        rootOpeningMm: 2.38125,
        rootFaceMm: 2.38125,
        backing: { kind: 'none' },
      },
    },
    fitUp: { measured: null },
    ...change,
  }) as unknown as Schema['CouponView']

describe('a fit-up while it is measured', () => {
  beforeEach(() => localStorage.clear())

  it('goes on to the next measure that is not taken yet', () => {
    const draft = FitUpDraft.open(coupon())
    expect(draft.active).toBe('rootOpeningMm')
    draft.set('12', 'rootOpeningMm', 2)
    expect(draft.active).toBe('rootFaceMm')
  })

  it('fills only what was not measured when the rest is as drawn', () => {
    const draft = FitUpDraft.open(coupon())
    draft.set('6', 'rootOpeningMm', 1)
    draft.asDrawn('6')
    expect(draft.value('6', 'rootOpeningMm')).toBe(1)
    expect(draft.value('6', 'rootFaceMm')).toBe(2.38125)
    expect(draft.isMeasured('6')).toBe(true)
    expect(draft.complete).toBe(false)
  })

  it('outlives the page until it is recorded', () => {
    FitUpDraft.open(coupon()).set('3', 'offsetMm', 0.4)
    const again = FitUpDraft.open(coupon())
    expect(again.value('3', 'offsetMm')).toBe(0.4)
    again.forget()
    expect(FitUpDraft.open(coupon()).value('3', 'offsetMm')).toBeNull()
  })

  it('asks for what the plan of the joint holds to a tolerance, and for nothing else', () => {
    expect(FitUpDraft.open(coupon()).measures).toEqual([
      'rootOpeningMm',
      'rootFaceMm',
      'bevelDegA',
      'bevelDegB',
      'offsetMm',
    ])
    const insert = coupon({ id: 'c2' })
    insert.test.fitUp.tolerances = ['ringGapMm', 'rootFaceMm'].map((measure) => ({ measure })) as never
    expect(FitUpDraft.open(insert).measures).toEqual(['rootFaceMm', 'ringGapMm'])
    expect(FitUpDraft.open(insert).active).toBe('rootFaceMm')
  })

  it('sends the points that were measured, with nulls for what was not', () => {
    const draft = FitUpDraft.open(coupon())
    draft.set('9', 'bevelDegA', 35)
    expect(draft.toRequest().points).toEqual([
      {
        at: '9',
        bevelDegA: 35,
        bevelDegB: null,
        rootOpeningMm: null,
        rootFaceMm: null,
        offsetMm: null,
        stripGapMm: null,
        ringGapMm: null,
      },
    ])
  })
})
