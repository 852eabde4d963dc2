import type { Schema } from '$lib/api/client'
import type { MarkOf } from '$lib/ui/Mark.svelte'

const STATES: Record<Schema['SittingState'], { name: string; of: MarkOf }> = {
  booked: { name: 'booked', of: 'open' },
  today: { name: 'today', of: 'next' },
  waiting: { name: 'result wanting', of: 'caution' },
  passed: { name: 'passed', of: 'done' },
  failed: { name: 'not passed', of: 'fault' },
  void: { name: 'void', of: 'out' },
  cancelled: { name: 'called off', of: 'out' },
}
const TURNS: Record<Schema['SittingTurn'], string> = {
  first: 'First, or by itself',
  atOnce: 'Repeated at once',
  afterTraining: 'Anew, after training',
}

export const sittingState = (state: Schema['SittingState']) => STATES[state]
export const turnName = (turn: Schema['SittingTurn']) => TURNS[turn]
