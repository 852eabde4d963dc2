import { QueryClient } from '@tanstack/svelte-query'
import { expect, test, vi } from 'vitest'
import type { Schema } from '$lib/api/client'
import { apply, patched } from './live.svelte'

const student = (id: string, name: string) => ({ id, name }) as Schema['FloorStudent']
const hold = (studentId: string, calledAt: string) => ({ studentId, calledAt }) as Schema['FloorHold']

test('a change replaces its students and their hold points, and leaves the others', () => {
  const floor = {
    students: [student('a', 'before'), student('b', 'same')],
    holds: [hold('a', '10:05'), hold('b', '10:10')],
  } as Schema['FloorView']
  const now = patched(floor, {
    whole: false,
    students: [student('a', 'after')],
    holds: [hold('a', '10:20')],
    coupons: [],
  })
  expect(now.students.map((one) => one.name)).toEqual(['after', 'same'])
  expect(now.holds.map((one) => one.calledAt)).toEqual(['10:10', '10:20'])
})

test('a change has the coupons that it names read again, also closed ones, and no other', async () => {
  const client = new QueryClient()
  const keys = [['coupon', 'closed'], ['coupon', 'closed', 'lab'], ['coupon', 'other'], ['due'], ['week']]
  for (const key of keys) client.setQueryData(key, 'before')
  apply(client, { whole: false, students: [], holds: [], coupons: ['closed'] })
  const stale = (key: string[]) => client.getQueryState(key)!.isInvalidated
  await vi.waitFor(() => expect(stale(['due'])).toBe(true))
  expect(keys.filter(stale)).toEqual([['coupon', 'closed'], ['coupon', 'closed', 'lab'], ['due']])
  apply(client, { whole: true, students: [], holds: [], coupons: [] })
  await vi.waitFor(() => expect(stale(['coupon', 'other'])).toBe(true))
})
