import type { QueryClient } from '@tanstack/svelte-query'
import { askAgain } from '$lib/changed'
import type { Schema } from '$lib/api/client'

const SILENT_MS = 40_000

// What a change of everything touches: the floor and its week, the coupon that is looked at, and how students stand on a new day.
const ANYTHING: unknown[] = ['floor', 'due', 'week', 'coupon', 'ready', 'student', 'grounds', 'readiness']

/** Follows the floor: what changes anywhere in the school is put into what this screen shows. */
class Live {
  /** False while the connection is lost; the browser connects again by itself and is told what it missed. */
  connected = $state(false)
  private source: EventSource | null = null
  private heard = 0

  open(client: QueryClient) {
    this.close()
    const source = (this.source = new EventSource('/api/floor/events'))
    const alive = () => {
      this.connected = true
      this.heard = Date.now()
    }
    source.onopen = alive
    source.onerror = () => (this.connected = false)
    source.addEventListener('beat', alive)
    source.addEventListener('change', (event) => {
      alive()
      apply(client, JSON.parse(event.data) as Schema['FloorChange'])
    })
    // A connection that died without a word is opened anew.
    const watch = setInterval(() => {
      if (this.source !== source) clearInterval(watch)
      else if (this.connected && Date.now() - this.heard > SILENT_MS) this.open(client)
    }, SILENT_MS / 2)
  }

  close() {
    this.source?.close()
    this.source = null
    this.connected = false
  }
}

export const live = new Live()

/** Puts a change into the floor as it is shown, and has the coupons that it touches read again. */
export function apply(client: QueryClient, change: Schema['FloorChange']) {
  if (change.whole) {
    void askAgain(client, ([what]) => ANYTHING.includes(what))
    return
  }
  client.setQueryData<Schema['FloorView']>(['floor'], (floor) => floor && patched(floor, change))
  // A floor that is on its way may be from before, and would lie over what was put in here.
  const floorOnItsWay = client.isFetching({ queryKey: ['floor'] }) > 0
  const students: unknown[] = change.students.map((student) => student.id)
  const coupons: unknown[] = [...change.coupons, ...change.students.map((student) => student.open?.id)]
  void askAgain(
    client,
    ([what, id]) =>
      (what === 'floor' && floorOnItsWay) ||
      what === 'ready' ||
      what === 'due' ||
      ((what === 'student' || what === 'grounds' || what === 'readiness') && students.includes(id)) ||
      (what === 'coupon' && coupons.includes(id)),
  )
}

/** The floor with the changed students as they are now, and their hold points in the queue, oldest first. */
export function patched(floor: Schema['FloorView'], change: Schema['FloorChange']): Schema['FloorView'] {
  const now = Object.fromEntries(change.students.map((student) => [student.id, student]))
  return {
    ...floor,
    students: floor.students.map((student) => now[student.id] ?? student),
    holds: [...floor.holds.filter((hold) => !(hold.studentId in now)), ...change.holds].toSorted((a, b) =>
      a.calledAt.localeCompare(b.calledAt),
    ),
  }
}
