import { expect, test } from 'vitest'
import { longDay, mondayOf, todayIn, weekAfter } from './weeks'

test('a week begins on its Monday, over the end of a year too', () => {
  expect(mondayOf('2026-11-23')).toBe('2026-11-23')
  expect(mondayOf('2026-11-29')).toBe('2026-11-23')
  expect(mondayOf('2027-01-01')).toBe('2026-12-28')
  expect(weekAfter('2026-12-28', 1)).toBe('2027-01-04')
})

test('a day is shown as that day, wherever the tablet is', () => {
  expect(longDay('2031-03-04')).toBe('Tuesday 4 March')
})

test('today is that of the school, not of the tablet', () => {
  expect(todayIn('Europe/Oslo', new Date('2026-11-23T23:30:00Z'))).toBe('2026-11-24')
})
