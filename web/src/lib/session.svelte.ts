import { api, ask, type Schema } from '$lib/api/client'

/** Whose school this is and who is at the tablet. */
class Session {
  view = $state<Schema['SessionView'] | null>(null)

  get timeZone() {
    return this.view?.school?.timeZone ?? 'UTC'
  }

  async load() {
    this.view = await ask(api.GET('/api/session'))
  }

  async signIn(instructorId: string, pin: string) {
    await ask(api.POST('/api/session', { body: { instructorId, pin } }))
    await this.load()
  }

  async signOut() {
    await ask(api.DELETE('/api/session'))
    await this.load()
  }
}

export const session = new Session()
