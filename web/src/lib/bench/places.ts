import type { Schema } from '$lib/api/client'
import { beadName } from '$lib/words'

export type StartOrStop = { id: string; name: string; clock: string | null; fromStartMm: number | null }

/** Where the passes of a coupon were started and stopped, as far as it was noted: faults like these places. */
export function startsAndStops(coupon: Schema['CouponView']): StartOrStop[] {
  const isPipe = coupon.test.product === 'pipe'
  return coupon.beads.flatMap((bead) =>
    (['startAt', 'stopAt'] as const).flatMap((which) => {
      const at = bead.pass?.[which]
      if (at == null) return []
      const name = `${which === 'startAt' ? 'Start' : 'Stop'} of ${beadName(bead).toLowerCase()}`
      return [
        {
          id: `${bead.key} ${which}`,
          name,
          clock: isPipe ? at : null,
          fromStartMm: isPipe ? null : Number(at),
        },
      ]
    }),
  )
}
