import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import { Refused, type Schema } from '$lib/api/client'
import { notices } from '$lib/notices.svelte'

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
  /** Set when the server keeps something else in its place: to be settled by hand. */
  clash?: string
}

interface Box extends DBSchema {
  writes: { key: number; value: Waiting }
}

const RETRY_MS = 3000
// What the browser's database takes: plain data, and a file as it is.
const plain = (item: Waiting): Waiting => {
  const { file, ...rest } = item
  return { ...(JSON.parse(JSON.stringify(rest)) as Waiting), ...(file ? { file } : {}) }
}

const GATEWAY_DOWN = [502, 503, 504]

/**
 * What is written on the bench, kept in the browser's own database until the server has it. It is sent in the order in which it was written;
 * since every record has its id already, sending twice changes nothing.
 */
class Outbox {
  items = $state<Waiting[]>([])
  /** Called after anything reached the server. */
  onsent: () => void = () => {}
  private box: Promise<IDBPDatabase<Box>> | null = null
  private running: Promise<void> | null = null

  get count() {
    return this.items.length
  }
  get clashes() {
    return this.items.filter((one) => one.clash)
  }

  /** The beads of a coupon whose passes are on their way and not taken back. */
  passesOf(couponId: string): string[] {
    const given = new Set(this.items.filter((one) => one.method === 'DELETE').map((one) => one.path))
    return this.items
      .filter((one) => one.couponId === couponId && one.method === 'PUT' && one.path.includes('/passes/'))
      .filter((one) => !one.clash && !given.has(one.path))
      .map((one) => (one.body as Schema['RecordPass']).beadKey!)
  }

  /** Reads what an earlier page left and sends it. */
  async open() {
    this.items = await (await this.db()).getAll('writes')
    addEventListener('online', () => void this.flush())
    setInterval(() => {
      if (this.items.some((one) => !one.clash)) void this.flush()
    }, RETRY_MS)
    await this.flush()
  }

  /**
   * Writes and sends. True when the server has it, false when it is kept here for later.
   * @throws Refused when the server will not have it; it is not kept then, unless somebody else's stands in its place.
   */
  async send(write: Omit<Waiting, 'seq' | 'clash'>): Promise<boolean> {
    const kept = plain(write)
    const seq = await (await this.db()).add('writes', kept)
    this.items.push({ ...kept, seq })
    await this.flush(seq)
    return !this.items.some((one) => one.seq === seq)
  }

  /** Gives a write up, as when the other's is kept. */
  async drop(seq: number) {
    await (await this.db()).delete('writes', seq)
    this.items = this.items.filter((one) => one.seq !== seq)
  }

  /** Sends a clash again, after what stood in its place was taken back. */
  async again(seq: number) {
    const item = this.items.find((one) => one.seq === seq)
    if (!item) return
    delete item.clash
    await (await this.db()).put('writes', plain(item))
    await this.flush()
  }

  /** Sends what waits, one after another. What is refused while it is being written is thrown to whoever wrote it. */
  async flush(own?: number) {
    while (this.running) await this.running.catch(() => {})
    let refusal: unknown = null
    this.running = (async () => {
      for (const item of [...this.items].filter((one) => !one.clash)) {
        const outcome = await this.attempt(item)
        if (outcome === 'down') return
        if (outcome === 'done') await this.drop(item.seq!)
        else if (outcome.status === 409 || item.seq !== own) {
          // Nothing is thrown away unseen: what cannot be sent waits to be settled.
          const kept = this.items.find((one) => one.seq === item.seq)
          if (kept) kept.clash = outcome.message
          await (await this.db()).put('writes', plain({ ...item, clash: outcome.message }))
          if (item.seq === own) refusal = outcome
        } else {
          await this.drop(item.seq!)
          refusal = outcome
        }
        this.onsent()
      }
    })()
    await this.running.finally(() => (this.running = null))
    if (refusal) throw refusal
  }

  private async attempt(item: Waiting): Promise<'done' | 'down' | Refused> {
    let response: Response
    try {
      response = await fetch(item.path, {
        method: item.method,
        headers: item.file
          ? { 'content-type': item.file.type || 'application/octet-stream' }
          : item.body == null
            ? {}
            : { 'content-type': 'application/json' },
        body: item.file ?? (item.body == null ? undefined : JSON.stringify(item.body)),
      })
    } catch {
      return 'down'
    }
    if (response.ok) return 'done'
    if (GATEWAY_DOWN.includes(response.status) || response.status === 401) return 'down'
    const problem = (await response.json().catch(() => ({}))) as {
      title?: string
      errors?: Record<string, string[]>
    }
    return new Refused(response.status, problem.title ?? 'The server refused.', problem.errors ?? {})
  }

  private db() {
    this.box ??= openDB<Box>('gradus', 1, {
      upgrade: (db) => void db.createObjectStore('writes', { keyPath: 'seq', autoIncrement: true }),
    })
    return this.box
  }
}

export const outbox = new Outbox()

/** Writes one record of a coupon; says so when it has to wait here. */
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
  if (!(await outbox.send({ method, path, body, couponId, label, file })))
    notices.add('Kept on this tablet: it goes to the server by itself when it is reached again.', 'caution')
}
