import { m } from '$lib/paraglide/messages'
import { likes } from '$lib/likes.svelte'

export type Said = keyof typeof m

/** Words of the pages that students read, in the language of whoever reads them. */
export const say = (what: Said, filled: Record<string, string | number> = {}): string =>
  (m[what] as (filled: object, options: { locale: string }) => string)(filled, { locale: likes.language })
