import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import { Refused, type Schema } from '$lib/api/client'
import { session } from '$lib/session.svelte'

export type Waiting = {
  seq?: number
  method: 'PUT' | 'DELETE'
  path: string
  body: unknown
  /** A photo goes as it is. */
  file?: Blob
  couponId: string
  /** What it is, in words. */
  label: string
  /** When it was written, in ms by the clock of this tablet. */
  happenedAt?: number
  /** Says to the server who wrote it, whoever is signed in when it is sent. */
  author?: string | null
  /** Who wrote it, in words. */
  authorName?: string | null
  authorId?: string | null
  /** Why the server will not have it: to be settled by hand. */
  refused?: string
}

interface Box extends DBSchema {
  writes: { key: number; value: Waiting }
}

/** Why what waits is not sent. */
export type Holdup = 'unreachable' | 'signedOut' | { says: string } | null

const RETRY_MS = 3000
const TIMEOUT_MS = 20_000
const PHOTO_TIMEOUT_MS = 120_000

// Only these say that the content itself will not do; anything else is the server's or the way's trouble, and passes.
const REFUSALS = [400, 403, 404, 409, 413, 415, 422]

// What the browser's database takes: plain data, and a file as it is.
const plain = (item: Waiting): Waiting => {
  const { file, ...rest } = item
  return { ...(JSON.parse(JSON.stringify(rest)) as Waiting), ...(file ? { file } : {}) }
}

/**
 * What is written on the bench, kept in the browser's own database until the server has it. It is sent in the order in which it was written;
 * since every record has its id already, sending twice changes nothing.
 */
class Outbox {
  items = $state<Waiting[]>([])
  holdup = $state<Holdup>(null)
  /** False when this browser keeps no data of its own. */
  isKept = $state(true)
  /** Called after anything reached the server. */
  onsent: () => void = () => {}
  private box: Promise<IDBPDatabase<Box>> | null = null
  private running: Promise<void> | null = null
  private last = 0

  get waiting() {
    return this.items.filter((one) => !one.refused)
  }
  get refused() {
    return this.items.filter((one) => one.refused)
  }

  /** The beads of a coupon whose passes are on their way and not taken back; a run that is part of one does not make it. */
  passesOf(couponId: string): string[] {
    const given = new Set(this.items.filter((one) => one.method === 'DELETE').map((one) => one.path))
    return this.waiting
      .filter((one) => one.couponId === couponId && one.method === 'PUT' && one.path.includes('/passes/'))
      .filter((one) => !given.has(one.path) && !(one.body as Schema['RecordPass']).part)
      .map((one) => (one.body as Schema['RecordPass']).beadKey!)
  }

  /** Reads what an earlier page left and sends it. */
  async open() {
    try {
      this.items = await (await this.db()).getAll('writes')
    } catch {
      this.isKept = false
    }
    addEventListener('online', () => void this.flush())
    setInterval(() => {
      if (this.waiting.length) void this.flush()
    }, RETRY_MS)
    await this.flush()
  }

  /**
   * Writes and sends. True when the server has it, false when it is kept here for later.
   * @throws Refused when the server will not have it; it is not kept then, unless somebody else's stands in its place.
   */
  async send(
    write: Omit<Waiting, 'seq' | 'refused' | 'happenedAt' | 'author' | 'authorName' | 'authorId'>,
  ): Promise<boolean> {
    const kept = plain({
      ...write,
      happenedAt: Date.now(),
      author: session.view?.authorTicket ?? null,
      authorName: session.view?.person?.name ?? null,
      authorId: session.view?.person?.id ?? null,
    })
    const seq = await this.add(kept)
    await this.flush(seq)
    return !this.items.some((one) => one.seq === seq)
  }

  /** Gives a write up, as when the other's is kept. */
  async drop(seq: number) {
    if (this.isKept) await (await this.db()).delete('writes', seq)
    this.items = this.items.filter((one) => one.seq !== seq)
  }

  /** Sends a refused one again, after what stood in its place was taken back. */
  async again(seq: number) {
    const item = this.items.find((one) => one.seq === seq)
    if (!item) return
    delete item.refused
    await this.put(item)
    await this.flush()
  }

  /** Sends what waits, one after another. What is refused while it is being written is thrown to whoever wrote it. */
  async flush(own?: number) {
    while (this.running) await this.running.catch(() => {})
    let refusal: Refused | null = null
    this.running = (async () => {
      for (const item of this.waiting.filter(isMine)) {
        const outcome = await this.attempt(item)
        if (outcome === 'done' || (outcome instanceof Refused && (await isThere(item, outcome)))) {
          await this.drop(item.seq!)
        } else if (!(outcome instanceof Refused)) {
          this.holdup = outcome
          return
        } else if (item.seq === own && outcome.status !== 409) {
          // Whoever wrote it stands before it, and is told at once.
          await this.drop(item.seq!)
          refusal = outcome
        } else {
          // Nothing is thrown away unseen: what cannot be sent waits to be settled.
          const kept = this.items.find((one) => one.seq === item.seq)
          if (kept) kept.refused = outcome.message
          await this.put({ ...item, refused: outcome.message })
          if (item.seq === own) refusal = outcome
        }
        this.onsent()
      }
      this.holdup = null
    })()
    await this.running.finally(() => (this.running = null))
    if (refusal) throw refusal as Refused
  }

  private async attempt(item: Waiting): Promise<'done' | Refused | NonNullable<Holdup>> {
    let response: Response
    try {
      response = await fetch(item.path, {
        method: item.method,
        headers: {
          ...(item.file
            ? { 'content-type': item.file.type || 'application/octet-stream' }
            : item.body == null
              ? {}
              : { 'content-type': 'application/json' }),
          ...(item.happenedAt ? { 'gradus-happened-at': `${item.happenedAt}` } : {}),
          ...(item.author ? { 'gradus-author': item.author } : {}),
          'gradus-sent-at': `${Date.now()}`,
        },
        body: item.file ?? (item.body == null ? undefined : JSON.stringify(item.body)),
        signal: AbortSignal.timeout(item.file ? PHOTO_TIMEOUT_MS : TIMEOUT_MS),
      })
    } catch {
      return 'unreachable'
    }
    if (response.ok) return 'done'
    const problem = (await response.json().catch(() => ({}))) as {
      title?: string
      errors?: Record<string, string[]>
    }
    if (REFUSALS.includes(response.status))
      return new Refused(response.status, problem.title ?? 'The server refused.', problem.errors ?? {})
    if (response.status === 401) {
      session.expire()
      return 'signedOut'
    }
    return { says: problem.title ?? 'The server has trouble of its own.' }
  }

  private async add(kept: Waiting): Promise<number> {
    // Numbers of its own, where the browser gives none: two entries of one moment are two.
    const seq = this.isKept ? await (await this.db()).add('writes', kept) : ++this.last
    this.items.push({ ...kept, seq })
    return seq
  }

  private async put(item: Waiting) {
    if (this.isKept) await (await this.db()).put('writes', plain(item))
  }

  private db() {
    this.box ??= openDB<Box>('gradus', 1, {
      upgrade: (db) => void db.createObjectStore('writes', { keyPath: 'seq', autoIncrement: true }),
    })
    return this.box
  }
}

export const outbox = new Outbox()

/** What others wrote waits for them or for an instructor while a student is signed in. */
const isMine = (item: Waiting) =>
  !session.isStudent || !item.authorId || item.authorId === session.view?.person?.id

/** Two identical entries are no clash: true when the bead is laid already with the very settings of this pass. */
async function isThere(item: Waiting, refusal: Refused): Promise<boolean> {
  if (refusal.status !== 409 || item.method !== 'PUT' || !item.path.includes('/passes/')) return false
  const mine = item.body as Record<string, unknown> & { beadKey?: string | null }
  try {
    const answer = await fetch(`/api/coupons/${item.couponId}`)
    if (!answer.ok) return false
    const coupon = (await answer.json()) as Schema['CouponView']
    const standing = coupon.beads.find((bead) => bead.key === mine.beadKey)?.pass as unknown as
      Record<string, unknown> | null | undefined
    return (
      standing != null &&
      Object.keys(mine)
        .filter((key) => key !== 'beadKey')
        .every((key) => (standing[key] ?? null) === (mine[key] ?? null))
    )
  } catch {
    return false
  }
}

/** What is true of what waits, in one sentence; null when nothing has to be said. */
export function sentence(
  waiting: number,
  refused: number,
  holdup: Holdup,
  online: boolean,
  isKept: boolean,
): string | null {
  const entries = (count: number) => `${count} ${count === 1 ? 'entry' : 'entries'}`
  const one = waiting === 1
  if (!isKept && (waiting || !online))
    return 'This browser keeps no data of its own: what is not sent is lost with the page.'
  if (waiting && holdup === 'signedOut')
    return `${entries(waiting)} ${one ? 'waits' : 'wait'} on this tablet until somebody signs in.`
  if (waiting && holdup && typeof holdup === 'object')
    return `${entries(waiting)} ${one ? 'waits' : 'wait'} on this tablet. ${holdup.says}`
  if (waiting && (holdup === 'unreachable' || !online))
    return `${entries(waiting)} ${one ? 'waits' : 'wait'} on this tablet; ${one ? 'it goes' : 'they go'} to the server by ${one ? 'itself' : 'themselves'} when it is reached again.`
  if (refused)
    return `${entries(refused)} ${refused === 1 ? 'was' : 'were'} refused by the server and ${refused === 1 ? 'waits' : 'wait'} here to be settled.`
  if (!online) return 'No network. What you log now is kept on this tablet, and goes to the server by itself.'
  return null
}

/** Writes one record of a coupon. When it has to wait here, the status line says so. */
export async function write(
  couponId: string,
  method: Waiting['method'],
  what: string,
  id: string,
  body: unknown,
  label: string,
  file?: Blob,
): Promise<void> {
  const path = `/api/coupons/${couponId}/${what}/${id}`
  await outbox.send({ method, path, body, couponId, label, file })
}
