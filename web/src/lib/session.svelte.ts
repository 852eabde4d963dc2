import { api, ask, onSignedOut, type Schema } from '$lib/api/client'

/** Whose school this is and who is at the tablet. */
class Session {
  view = $state<Schema['SessionView'] | null>(null)
  /** True when the session ended under a page that is still open: it stays, and the sign-in comes over it. */
  expired = $state(false)

  get timeZone() {
    return this.view?.school?.timeZone ?? 'UTC'
  }

  async load() {
    this.view = await ask(api.GET('/api/session'))
    this.expired = false
  }

  async signIn(instructorId: string, pin: string) {
    await ask(api.POST('/api/session', { body: { instructorId, pin } }))
    await this.load()
  }

  /** Makes this screen a wall screen: it reads the floor, names nobody in full, and is signed out of all else. */
  async hang(names: Schema['WallNames']) {
    await ask(api.POST('/api/session/wall', { body: { names } }))
    await this.load()
  }

  async signOut() {
    await ask(api.DELETE('/api/session'))
    await this.load()
  }

  /** The server knows this session no more. */
  expire() {
    if (this.view?.instructor) this.expired = true
  }
}

export const session = new Session()
onSignedOut(() => session.expire())
