import { page } from '$app/state'

export type Value = number | string | boolean
type Values = Record<string, Value>

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

/** The address that reopens a card with the same numbers. */
export function cardLink(card: string, values: Values, origin = location.origin): string {
  const query = new URLSearchParams({ card })
  for (const [key, value] of Object.entries(values)) query.set(key, String(value))
  return `${origin}/shop?${query}`
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

/** What can be read of each known value, in the kind that it has. */
export function pick<T extends Values>(usual: T, textOf: (key: string) => string | null): Partial<T> {
  const found: Values = {}
  for (const [key, value] of Object.entries(usual)) {
    const text = textOf(key)
    if (text === null) continue
    if (typeof value === 'string') found[key] = text
    else if (typeof value === 'boolean') found[key] = text === 'true'
    else if (text.trim() !== '' && Number.isFinite(Number(text))) found[key] = Number(text)
  }
  return found as Partial<T>
}
