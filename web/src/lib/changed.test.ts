import { QueryClient, QueryObserver } from '@tanstack/svelte-query'
import { expect, it } from 'vitest'
import { changed } from './changed'

it('asks again for what a write touched, and leaves what it did not', async () => {
  const client = new QueryClient()
  const keys = [['coupon', 'a'], ['floor'], ['lens', 'smaw', 107], ['finding-kinds'], ['tests'], ['stock']]
  for (const key of keys) client.setQueryData(key, 1)
  const stale = () => keys.filter((key) => client.getQueryState(key)!.isInvalidated).map((key) => key[0])
  await changed(client, 'stock')
  expect(stale()).toEqual(['stock'])
  await changed(client, 'coupon')
  expect(stale()).toEqual(['coupon', 'floor', 'stock'])
})

it('does not settle for a first answer that set out before the write', async () => {
  const client = new QueryClient()
  const answers: ((laid: number) => void)[] = []
  const queryFn = () => new Promise<number>((answer) => answers.push(answer))
  const coupon = new QueryObserver(client, { queryKey: ['coupon', 'a'], queryFn })
  const leave = coupon.subscribe(() => {})
  const written = changed(client, 'coupon')
  answers[0]!(3)
  await expect.poll(() => answers.length).toBe(2)
  answers[1]!(4)
  await written
  expect(coupon.getCurrentResult().data).toBe(4)
  leave()
})
