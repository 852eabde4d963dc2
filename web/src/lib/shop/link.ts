export type Value = number | string | boolean
export type Values = Record<string, Value>

/** The address that reopens a card with the same numbers. */
export function cardLink(card: string, values: Values, origin = location.origin): string {
  const query = new URLSearchParams({ card })
  for (const [key, value] of Object.entries(values)) query.set(key, String(value))
  return `${origin}/shop?${query}`
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
