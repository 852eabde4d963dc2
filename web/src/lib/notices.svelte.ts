import { inUnits } from '$lib/units.svelte'

export type Notice = { id: number; text: string; tone: 'done' | 'caution'; undo?: () => Promise<void> }

const SHOWN_MS = 9000

/** Short messages at the foot of the page: what was done, with its undo, or what went wrong. */
class Notices {
  list = $state<Notice[]>([])
  private last = 0

  add(text: string, tone: Notice['tone'] = 'done', undo?: Notice['undo']) {
    const id = ++this.last
    this.list = [...this.list.slice(-2), { id, text, tone, undo }]
    setTimeout(() => this.drop(id), SHOWN_MS)
  }

  drop(id: number) {
    this.list = this.list.filter((notice) => notice.id !== id)
  }

  /** Runs an action; what it throws is told in its own words. True when it went well. */
  async attempt(action: () => Promise<unknown>): Promise<boolean> {
    try {
      await action()
      return true
    } catch (error) {
      this.add(error instanceof Error ? inUnits(error.message) : 'Something went wrong.', 'caution')
      return false
    }
  }
}

export const notices = new Notices()
