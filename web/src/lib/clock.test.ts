import { expect, it } from 'vitest'
import { clockAt, minutesOf } from './clock'

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
