import { api, type Schema } from '$lib/api/client'
import { likes } from '$lib/likes.svelte'
import { outbox } from '$lib/outbox.svelte'
import { readAhead } from '$lib/read-ahead'
import { session } from '$lib/session.svelte'
import { mondayOf, todayIn } from '$lib/weeks'

const EACH_HOUR_MS = 3_600_000
const AT_ONCE = 3

/** The page without a network: what is kept for it, and a new page that waits to take over. */
class Offline {
  /** True when a newer page has come and takes over as soon as nothing waits to be sent. */
  newPage = $state(false)
  private waiting: ServiceWorker | null = null

  /** A service worker runs where the address is trusted: on this machine, or over HTTPS with a certificate that the tablet knows. */
  get canBe() {
    return 'serviceWorker' in navigator && isSecureContext
  }

  async open() {
    if (!this.canBe) return
    const registration = await navigator.serviceWorker.ready
    const look = () => {
      this.waiting = registration.waiting
      this.newPage = registration.waiting != null
    }
    look()
    registration.addEventListener('updatefound', () => {
      registration.installing?.addEventListener('statechange', look)
    })
    const ask = () => void registration.update().catch(() => {})
    ask()
    setInterval(ask, EACH_HOUR_MS)
    const had = navigator.serviceWorker.controller != null
    navigator.serviceWorker.addEventListener('controllerchange', () => {
      if (had) location.reload()
    })
  }

  /** Sends what waits, then lets the new page take over. */
  async takeOver() {
    await outbox.flush().catch(() => {})
    this.waiting?.postMessage('take-over')
  }

  /** Reads ahead what the floor is worked with, so that it is here when the network is not. */
  async warm() {
    const me = session.view?.person
    if (!this.canBe || !me || !navigator.serviceWorker.controller) return
    const key = `${me.id} ${session.view?.today}`
    if (readAhead.doneFor === key) return
    readAhead.doneFor = key
    const paths = [
      '/api/session',
      '/api/finding-kinds',
      '/api/tests',
      '/api/profiles',
      '/api/formulas',
      '/api/codes',
    ]
    if (session.isStudent) {
      const mine = await api.GET('/api/me').catch(() => null)
      if (mine?.data?.open) paths.push(...couponOf(mine.data.open.id))
    } else {
      const floor = await api.GET('/api/floor').catch(() => null)
      const monday = mondayOf(todayIn(session.timeZone))
      paths.push('/api/classes', '/api/ready?all=false', '/api/results', '/api/plan/setup', '/api/steps')
      paths.push('/api/floor/due', '/api/sittings', '/api/certificates/board', '/api/certificates/figures')
      // The sittings of today are what the shop works with.
      const due = await api.GET('/api/floor/due').catch(() => null)
      paths.push(...(due?.data?.sittings ?? []).map((one) => `/api/sittings/${one.id}`))
      paths.push('/api/stock', '/api/learn/class', `/api/weeks/${monday}`, `/api/weeks/${monday}/cutlist`)
      paths.push(...(floor?.data?.students ?? []).flatMap(pathsOf))
    }
    const tests = await api.GET('/api/tests').catch(() => null)
    paths.push(...(tests?.data ?? []).map((one) => `/api/tests/${one.id}`))
    while (paths.length > 0)
      await Promise.all(paths.splice(0, AT_ONCE).map((path) => fetch(path).catch(() => {})))
  }
}

/** A coupon, with what the coach says of it. */
const couponOf = (id: string) => [`/api/coupons/${id}`, `/api/coupons/${id}/coach?language=${likes.language}`]
const pathsOf = (student: Schema['FloorStudent']) => [
  ...(student.open ? couponOf(student.open.id) : []),
  `/api/students/${student.id}`,
]

export const offline = new Offline()
