import { api, ask, onSignedOut, type Schema } from '$lib/api/client'
import { readAhead } from '$lib/read-ahead'
import { units } from '$lib/units.svelte'

const ERASED = 'gradus.erased'

/** Whose school this is and who is at the tablet. */
class Session {
  view = $state<Schema['SessionView'] | null>(null)
  /** True when the session ended under a page that is still open: it stays, and the sign-in comes over it. */
  expired = $state(false)
  /** True when it was ended on purpose, or because nobody touched the tablet. */
  locked = $state(false)

  get timeZone() {
    return this.view?.school?.timeZone ?? 'UTC'
  }

  /** An amount as the school counts it: whole, with its currency. */
  money(value: number) {
    return `${value.toFixed(0)} ${this.view?.school?.currency ?? ''}`.trim()
  }

  get isStudent() {
    return this.view?.person?.role === 'student'
  }

  get isLead() {
    return this.view?.person?.role === 'lead'
  }

  async load() {
    this.view = await ask(api.GET('/api/session'))
    await this.forgetErased(this.view.erased)
    const liked = this.view.person?.units
    if (liked === 'in' || liked === 'mm') units.set(liked)
    this.expired = this.locked = false
  }

  /** Somebody was erased since this tablet last asked: what it has read may name them. */
  private async forgetErased(count: number) {
    if (count <= Number(localStorage.getItem(ERASED) ?? 0)) return
    await readAhead.forget()
    localStorage.setItem(ERASED, String(count))
  }

  async signIn(who: { instructorId: string | null; name: string | null }, pin: string) {
    await ask(api.POST('/api/session', { body: { ...who, pin } }))
    await this.load()
  }

  /** Ends the session and leaves the page as it is: whoever comes next says who they are. */
  async lock() {
    if (!this.view?.person || this.expired) return
    await ask(api.DELETE('/api/session')) // without a network nobody could sign in: then nobody is signed out
    this.expired = this.locked = true
    await readAhead.forget()
  }

  /** Makes this screen a wall screen: it reads the floor, names nobody in full, and is signed out of all else. */
  async hang(names: Schema['WallNames']) {
    await ask(api.POST('/api/session/wall', { body: { names } }))
    await this.load()
  }

  async signOut() {
    await ask(api.DELETE('/api/session'))
    await readAhead.forget()
    await this.load()
  }

  /** The server knows this session no more. */
  expire() {
    if (this.view?.person) this.expired = true
  }
}

export const session = new Session()
onSignedOut(() => session.expire())
