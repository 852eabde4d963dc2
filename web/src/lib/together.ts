type Present<T> = { [K in keyof T]: NonNullable<T[K]> }

/** All of the parts, or null while one is missing. */
export const together = <T extends Record<string, unknown>>(parts: T): Present<T> | null =>
  Object.values(parts).every((part) => part != null) ? (parts as Present<T>) : null
