import createClient from 'openapi-fetch'
import type { components, paths } from './schema'

export type Schema = components['schemas']

/** A refusal of the server, in words, with the fields that it names. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    title: string,
    readonly fields: Record<string, string[]>,
  ) {
    super(Object.values(fields).flat()[0] ?? title)
  }
}

/** The server could not be reached at all. */
export class Unreachable extends Error {
  constructor() {
    super('The server cannot be reached. What was saved before is safe.')
  }
}

let signedOut: () => void = () => {}

/** Has something done when the server says that nobody is signed in any more. */
export const onSignedOut = (act: () => void) => void (signedOut = act)

const SIGN_IN = '/api/session'

type Ahead = { at: number; answers: Record<string, Promise<Response | undefined>> }
const FRESH_MS = 5000

/** What the page asked before its scripts were there, once, while it is fresh and went well; else undefined. */
export async function askedAhead(request: Request, now = Date.now()): Promise<Response | undefined> {
  const ahead = (globalThis as { gradusAhead?: Ahead }).gradusAhead
  const { pathname, search } = new URL(request.url)
  const answer = request.method === 'GET' && !search ? ahead?.answers[pathname] : undefined
  if (!ahead || !answer) return undefined
  delete ahead.answers[pathname]
  const response = now - ahead.at < FRESH_MS ? await answer : undefined
  return response?.ok ? response : undefined
}

export const api = createClient<paths>({
  fetch: async (request) => {
    let response: Response
    try {
      response = (await askedAhead(request)) ?? (await fetch(request))
    } catch {
      throw new Unreachable()
    }
    if (response.status === 401 && !new URL(request.url).pathname.startsWith(SIGN_IN)) signedOut()
    return response
  },
})

type Answer<T> = { data?: T; error?: unknown; response: Response }

/** The data of an answer, or a Refused with the server's own words. */
export async function ask<T>(call: Promise<Answer<T>>): Promise<T> {
  const { data, error, response } = await call
  if (response.ok) return data as T
  const problem = (error ?? {}) as { title?: string; errors?: Record<string, string[]> }
  throw new Refused(response.status, problem.title ?? 'The server refused.', problem.errors ?? {})
}

/** A new id (GUID version 7: time first, so that it sorts), made here so that a retry is harmless. */
export function newId(now = Date.now()): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16))
  const time = BigInt(now)
  for (let index = 0; index < 6; index++) bytes[index] = Number((time >> BigInt(40 - 8 * index)) & 0xffn)
  bytes[6] = 0x70 | (bytes[6]! & 0x0f)
  bytes[8] = 0x80 | (bytes[8]! & 0x3f)
  const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, '0')).join('')
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join('-')
}
