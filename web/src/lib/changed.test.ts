import { QueryClient } from '@tanstack/svelte-query'
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
