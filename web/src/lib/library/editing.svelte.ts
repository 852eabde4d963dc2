import type { Schema } from '$lib/api/client'

type Draft = { test: Schema['TestTemplate']; basedOnVersion: number | null; why: string }

const KEY = 'gradus.library.draft'

/** The test that is being changed; kept in this browser until it is saved or put away. */
class Editing {
  draft = $state<Draft | null>(JSON.parse(localStorage.getItem(KEY) ?? 'null') as Draft | null)

  open(test: Schema['TestTemplate'], basedOnVersion: number | null) {
    this.draft = { test, basedOnVersion, why: '' }
    this.keep()
  }

  keep() {
    if (this.draft) localStorage.setItem(KEY, JSON.stringify(this.draft))
    else localStorage.removeItem(KEY)
  }

  putAway() {
    this.draft = null
    this.keep()
  }
}

export const editing = new Editing()
