import { api, ask } from '$lib/api/client'
import { session } from '$lib/session.svelte'
import { units, type Unit } from '$lib/units.svelte'

/** How whoever is signed in likes to be spoken to: it goes with them from tablet to tablet. */
class Likes {
  get language(): string {
    return session.view?.person?.language ?? 'en'
  }

  async speak(language: string) {
    await this.#keep({ language, units: null })
  }

  async read(unit: Unit) {
    units.set(unit) // at once, and without a network as well
    await this.#keep({ language: null, units: unit })
  }

  async #keep(liked: { language: string | null; units: string | null }) {
    if (!session.view?.person) return
    await ask(api.PUT('/api/session/likes', { body: liked }))
    await session.load()
  }
}

export const likes = new Likes()
