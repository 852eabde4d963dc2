import { expect, it } from 'vitest'
import { ago, moment } from './days'

const now = new Date('2031-03-04T12:00:00Z')

it.each([
  ['2031-03-04T08:00:00Z', 'Europe/Oslo', 'today'],
  ['2031-03-03T23:30:00Z', 'Europe/Oslo', 'today'],
  ['2031-03-04T03:00:00Z', 'America/Chicago', 'yesterday'],
  ['2031-03-03T11:00:00Z', 'Europe/Oslo', 'yesterday'],
  ['2031-02-24T12:00:00Z', 'Europe/Oslo', '8 days ago'],
  ['2030-12-24T12:00:00Z', 'Europe/Oslo', '10 weeks ago'],
])('says how long ago %s was in %s: %s', (iso, zone, says) => expect(ago(iso, zone, now)).toBe(says))

it('counts days over a change of the clocks', () =>
  expect(ago('2031-03-29T23:30:00Z', 'Europe/Oslo', new Date('2031-03-31T22:30:00Z'))).toBe('2 days ago'))

it("shows a moment in the school's zone", () => {
  expect(moment('2031-07-04T22:30:00Z', 'Europe/Oslo')).toContain('00:30')
})
