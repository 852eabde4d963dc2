/** What was read of the school and is kept for a day without a network; the service worker fills it. */
export const READ_CACHE = 'gradus-read'

/** What was read goes with whoever read it, and is read ahead anew by whoever comes. */
export const readAhead = {
  /** For whom and which day it was read ahead. */
  doneFor: '',
  async forget() {
    this.doneFor = ''
    if ('caches' in globalThis) await caches.delete(READ_CACHE)
  },
}
