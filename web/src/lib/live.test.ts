import { expect, test } from 'vitest'
import type { Schema } from '$lib/api/client'
import { patched } from './live.svelte'

const student = (id: string, name: string) => ({ id, name }) as Schema['FloorStudent']
const hold = (studentId: string, calledAt: string) => ({ studentId, calledAt }) as Schema['FloorHold']

test('a change replaces its students and their hold points, and leaves the others', () => {
  const floor = {
    students: [student('a', 'before'), student('b', 'same')],
    holds: [hold('a', '10:05'), hold('b', '10:10')],
  } as Schema['FloorView']
  const now = patched(floor, { whole: false, students: [student('a', 'after')], holds: [hold('a', '10:20')] })
  expect(now.students.map((one) => one.name)).toEqual(['after', 'same'])
  expect(now.holds.map((one) => one.calledAt)).toEqual(['10:10', '10:20'])
})
