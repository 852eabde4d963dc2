import { expect, it } from 'vitest'
import { ago, moment } from './days'

const now = Date.parse('2031-03-04T12:00:00Z')

it.each([
  ['2031-03-04T08:00:00Z', 'today'],
  ['2031-03-03T11:00:00Z', 'yesterday'],
  ['2031-02-24T12:00:00Z', '8 days ago'],
  ['2030-12-24T12:00:00Z', '10 weeks ago'],
])('says how long ago %s was: %s', (iso, says) => expect(ago(iso, now)).toBe(says))

it("shows a moment in the school's zone", () => {
  expect(moment('2031-07-04T22:30:00Z', 'Europe/Oslo')).toContain('00:30')
})
