import { describe, expect, it } from 'vitest'
import { clockAt, minutesOf, nearestHour } from './clock'

it('counts from twelve, and goes round either way', () => {
  expect(['12', '12:00', '6', '4:30', '11:30'].map(minutesOf)).toEqual([0, 0, 360, 270, 690])
  expect([0, 30, 270, 690, 720, -30].map(clockAt)).toEqual([
    '12:00',
    '12:30',
    '4:30',
    '11:30',
    '12:00',
    '11:30',
  ])
})

describe('the hour at which the section is cut for a place', () => {
  const hours = ['12', '3', '6', '9']
  it.each([
    ['4:00', '3'],
    ['5:00', '6'],
    ['11:30', '12'],
    ['12:30', '12'],
    ['10:00', '9'],
    ['1:30', '12'],
  ])('at %s is %s', (clock, hour) => expect(nearestHour(clock, hours)).toBe(hour))
  it('is none where no hour is measured', () => expect(nearestHour('4:00', [])).toBeNull())
})
