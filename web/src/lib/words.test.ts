import { expect, it } from 'vitest'
import { chanceSentence } from './words'

const chance = {
  mean: 0.8,
  lower: 0.6,
  upper: 0.93,
  coupons: 10,
  cleanCoupons: 8,
  effectiveCoupons: 8.1,
  tooLittleToTell: false,
}

it('says a chance as a person would', () => {
  expect(chanceSentence(chance)).toBe(
    'About 8 in 10 would pass; between 60\u00a0% and 93\u00a0% (8 of 10 coupons clean).',
  )
})

it('says so when there is too little to tell, and when there is nothing', () => {
  expect(chanceSentence({ ...chance, tooLittleToTell: true })).toMatch(/^Too little to tell/)
  expect(chanceSentence({ ...chance, coupons: 0, tooLittleToTell: true })).toMatch(
    /no whole coupon on this test yet/,
  )
})
