import { page } from '$app/state'
import { pick, type Values } from './link'

/**
 * The inputs of a card. They begin from the address (`/shop?card=groove&thicknessMm=9.525`), then from what was last used in this browser,
 * then from the usual case. Lengths are in mm, unrounded.
 */
export function cardValues<T extends Values>(card: string, usual: T): T {
  const values = $state<T>({ ...usual, ...kept(card, usual), ...asked(card, usual) })
  $effect(() => {
    localStorage.setItem(`gradus.shop.${card}`, JSON.stringify(values))
  })
  return values
}

function asked<T extends Values>(card: string, usual: T): Partial<T> {
  const query = page.url.searchParams
  return query.get('card') === card ? pick(usual, (key) => query.get(key)) : {}
}

function kept<T extends Values>(card: string, usual: T): Partial<T> {
  try {
    const stored = JSON.parse(localStorage.getItem(`gradus.shop.${card}`) ?? '{}') as Values
    return pick(usual, (key) => (stored[key] === undefined ? null : String(stored[key])))
  } catch {
    return {}
  }
}
