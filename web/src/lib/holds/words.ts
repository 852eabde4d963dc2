import type { Schema } from '$lib/api/client'
import type { MarkOf } from '$lib/ui/Mark.svelte'

const KINDS: Record<Schema['HoldKind'], { name: string; of: MarkOf }> = {
  holds: { name: 'holds', of: 'done' },
  endsSoon: { name: 'ends soon', of: 'next' },
  ended: { name: 'ended', of: 'out' },
}
export const holdKind = (kind: Schema['HoldKind']) => KINDS[kind]
