import { createQuery, keepPreviousData } from '@tanstack/svelte-query'

/** A calculation that follows its inputs: the last answer stays while the next is on its way. */
export const live = <T>(card: string, inputs: () => unknown, call: () => Promise<T>) =>
  createQuery(() => ({
    queryKey: ['shop', card, JSON.stringify(inputs())],
    queryFn: call,
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  }))
