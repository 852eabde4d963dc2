import type { QueryClient, QueryKey } from '@tanstack/svelte-query'

/** What is shown of each thing that can change, by the first word of a query's key. */
const TOUCHES = {
  coupon: [
    'coupon',
    'sitting',
    'holds',
    'due',
    'floor',
    'student',
    'readiness',
    'ready',
    'grounds',
    'learn',
    'week',
    'steps',
    'stock',
    'cutlist',
  ],
  student: ['student', 'former', 'floor', 'ready', 'grounds', 'coupon', 'week', 'steps'],
  sitting: [
    'sitting',
    'sittings',
    'booking',
    'due',
    'results',
    'model',
    'student',
    'grounds',
    'ready',
    'floor',
    'week',
    'steps',
    'way',
    'coupon',
  ],
  holds: ['holds', 'certificate', 'board', 'figures', 'due', 'sitting', 'sittings', 'student'],
  decision: ['booking', 'student', 'grounds', 'ready', 'floor', 'week', 'steps'],
  policy: ['policy', 'grounds', 'readiness', 'ready', 'student', 'results', 'week', 'steps'],
  model: ['model', 'readiness', 'ready', 'student', 'grounds', 'floor', 'learn', 'results', 'week', 'steps'],
  credit: ['steps', 'way', 'student', 'readiness', 'ready', 'grounds', 'week', 'floor'],
  goal: ['steps', 'way', 'student', 'week', 'floor'],
  plan: ['week', 'floor', 'steps', 'way', 'stock', 'cutlist', 'student', 'grounds', 'ready'],
  stock: ['stock', 'cutlist', 'week'],
  school: ['setup', 'classes', 'floor', 'week', 'steps', 'way', 'stock', 'cutlist'],
  absence: ['floor', 'week'],
  booths: ['floor', 'setup', 'week'],
} as const

/** After a write: asks again for what it touched, and for nothing else. */
export function changed(client: QueryClient, what: keyof typeof TOUCHES): Promise<void> {
  const touched: readonly unknown[] = TOUCHES[what]
  return askAgain(client, (key) => touched.includes(key[0]))
}

/** Asks again for what is shown. A first answer that is still on its way may be from before, and is not waited for. */
export async function askAgain(client: QueryClient, isMeant: (key: QueryKey) => boolean): Promise<void> {
  await client.cancelQueries({
    fetchStatus: 'fetching',
    predicate: (query) => isMeant(query.queryKey) && query.state.data === undefined,
  })
  await client.invalidateQueries({ predicate: (query) => isMeant(query.queryKey) })
}
