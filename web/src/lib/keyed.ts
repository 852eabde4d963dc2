/**
 * Devices that are keyboards: a scanner types what stands on a tag, a weld gauge a reading, each faster than a hand and with Enter after it. What
 * is typed so goes where it belongs; everything else is left as it is.
 */

/** Keys that follow one another sooner are no hand's. */
const BURST_MS = 45
const LEAST = 3
const STAMP = /^[ACEFHJKMNPRTWXY34679]{5,7}$/
const PLACES = /\/(coupons|students|certificates|library|sittings)\/[\w./-]+$/
const READING = /^\d{0,3}([.,]\d{1,5})?(\s?(mm|in|"))?$/

export type Typed =
  { kind: 'place'; path: string } | { kind: 'stamp'; stamp: string } | { kind: 'reading'; text: string }

/** What a device typed; null where it is nothing that anything is known of. */
export function readTyped(text: string): Typed | null {
  const place = PLACES.exec(text.split(/[?#]/)[0] ?? '')
  if (/^https?:\/\//i.test(text) && place) return { kind: 'place', path: place[0] }
  if (STAMP.test(text)) return { kind: 'stamp', stamp: text }
  if (READING.test(text) && /\d/.test(text)) return { kind: 'reading', text: text.replace(',', '.') }
  return null
}

/** A field that takes a reading. */
export type Taker = { field: HTMLElement; label: string; take: (text: string) => void }

/** The fields of the page that take a reading: the one that was touched last waits, else the first that can be seen; after it the next. */
export class Takers {
  #all = new Set<Taker>()
  #touched: Taker | null = null

  add(one: Taker): () => void {
    this.#all.add(one)
    const touch = () => (this.#touched = one)
    one.field.addEventListener('focus', touch)
    return () => {
      this.#all.delete(one)
      one.field.removeEventListener('focus', touch)
      if (this.#touched === one) this.#touched = null
    }
  }

  /** Gives a reading to the field that waits; null where none does. */
  give(text: string): Taker | null {
    const seen = [...this.#all]
      .filter((one) => one.field.getClientRects().length > 0)
      .toSorted((a, b) =>
        a.field.compareDocumentPosition(b.field) & Node.DOCUMENT_POSITION_FOLLOWING ? -1 : 1,
      )
    const waits = seen.find((one) => one === this.#touched) ?? seen[0]
    if (!waits) return null
    this.#touched = seen[seen.indexOf(waits) + 1] ?? waits
    waits.take(text)
    return waits
  }
}

export const takers = new Takers()

const isField = (target: EventTarget | null): target is HTMLElement =>
  target instanceof HTMLElement && target.closest('input, textarea, select, [contenteditable]') != null

/** Listens to the keys of a page; what a device typed is told, and no key of it does anything else. */
export function listen(target: Window, tell: (typed: Typed) => boolean): () => void {
  let held: { key: string; to: EventTarget }[] = []
  let text = ''
  let last = -Infinity
  let before: { field: HTMLInputElement; value: string } | null = null
  let timer: ReturnType<typeof setTimeout> | undefined
  const again = new WeakSet<Event>()

  // It was a hand: each key does what it does.
  function release() {
    clearTimeout(timer)
    const keys = held
    held = []
    for (const { key, to } of keys) {
      const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true })
      again.add(event)
      to.dispatchEvent(event)
    }
  }

  function onkeydown(event: KeyboardEvent) {
    if (again.has(event) || event.repeat || event.ctrlKey || event.metaKey || event.altKey) return
    const isSoon = event.timeStamp - last < BURST_MS
    if (event.key === 'Enter') {
      const typed = isSoon && text.length >= LEAST ? readTyped(text) : null
      const mayTake = typed != null && !(isField(event.target) && typed.kind === 'reading')
      text = ''
      if (mayTake && tell(typed)) {
        clearTimeout(timer)
        held = []
        event.preventDefault()
        event.stopImmediatePropagation()
        if (before) {
          before.field.value = before.value
          before.field.dispatchEvent(new Event('input', { bubbles: true }))
        }
      } else release()
      before = null
      return
    }
    if (event.key.length !== 1 || event.key === ' ') {
      if (event.key !== 'Shift') {
        text = ''
        release()
      }
      return
    }
    if (!isSoon) {
      text = ''
      before =
        event.target instanceof HTMLInputElement ? { field: event.target, value: event.target.value } : null
    }
    text += event.key
    last = event.timeStamp
    if (isField(event.target)) return
    // Whether it is a device's shows only with the next key: until then it is held back.
    event.preventDefault()
    event.stopImmediatePropagation()
    held.push({ key: event.key, to: event.target ?? target })
    clearTimeout(timer)
    timer = setTimeout(release, BURST_MS)
  }

  target.addEventListener('keydown', onkeydown, { capture: true })
  return () => {
    clearTimeout(timer)
    target.removeEventListener('keydown', onkeydown, { capture: true })
  }
}
