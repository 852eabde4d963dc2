import type { Schema } from '$lib/api/client'
import { beadName } from '$lib/words'

/** Where a finding lies: on the clock or along the plate, and across the joint. */
export type FindingPlace = {
  clock: string | null
  fromStartMm: number | null
  /** The member at whose toe it lies; null on the bead. */
  toe: Schema['JointMember'] | null
}

export type StartOrStop = {
  id: string
  name: string
  /** True where the stop was cut out with the grinder. */
  cut: boolean
  clock: string | null
  fromStartMm: number | null
}

/** Where the passes of a coupon were started and stopped, as far as it was noted: faults like these places. */
export function startsAndStops(coupon: Schema['CouponView']): StartOrStop[] {
  const isPipe = coupon.test.product === 'pipe'
  const along = (at: string) => {
    const length = coupon.test.lengthMm ?? 0
    return at === 'start' ? 0 : at === 'middle' ? length / 2 : at === 'end' ? length : Number(at)
  }
  return coupon.beads.flatMap((bead) =>
    bead.runs.flatMap((run) =>
      (['startAt', 'stopAt'] as const).flatMap((which) => {
        const at = run[which]
        if (at == null) return []
        const cut = which === 'stopAt' && run.measured?.stopDress === 'cutOut'
        const name = `${which === 'startAt' ? 'Start' : 'Stop'} of ${beadName(bead).toLowerCase()}${cut ? ', cut out' : ''}`
        return [
          {
            id: `${run.id} ${which}`,
            name,
            cut,
            clock: isPipe ? at : null,
            fromStartMm: isPipe ? null : along(at),
          },
        ]
      }),
    ),
  )
}

/** `, left toe`; nothing for a finding on the bead. */
export const toeText = (toe: Schema['JointMember'] | null | undefined) =>
  toe ? `, ${toe === 'a' ? 'left' : 'right'} toe` : ''
