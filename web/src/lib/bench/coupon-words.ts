import type { Schema } from '$lib/api/client'
import { beadCode } from '$lib/words'

export type Tell = (
  kind: Schema['BenchEventKind'],
  body: Partial<Schema['BenchEventBody']>,
  says: string,
) => void

/** The reason to give a coupon up that is said in words. */
export const VOID_OTHER: Schema['VoidReason'] = 'other'

/** The timers that a coupon can run. */
export const timersOf = (coupon: Schema['CouponView']): Schema['BenchTimer'][] => [
  'cool',
  ...(coupon.test.joint.backing.kind === 'gas' || coupon.test.joint.insert != null
    ? (['purge'] as const)
    : []),
  'arc',
  ...(coupon.asTest ? (['sitting'] as const) : []),
]

/** For how long a timer is set: the computed time first, then rounder ones over it. */
export function minutesOf(coupon: Schema['CouponView'], which: Schema['BenchTimer']) {
  const computed = which === 'purge' ? Math.ceil(coupon.life.purgeMinutes * 10) / 10 : coupon.life.coolMinutes
  const others = which === 'purge' ? [3, 6, 10, 15] : [2, 5, 10]
  return [
    ...(computed > 0 ? [{ minutes: computed, computed: true }] : []),
    ...others.filter((one) => one > computed).map((minutes) => ({ minutes, computed: false })),
  ]
}

/** How many beads lie side by side in the layer of a bead. */
export const besideOf = (coupon: Schema['CouponView'], bead: Schema['BeadView']) =>
  coupon.beads.filter(
    (one) => one.layer === bead.layer && (one.half ?? null) === (bead.half ?? null) && !one.patch,
  ).length

/** A bead as on the drawing: `3b`, `root`, `patch 1`. */
export const codeOf = (coupon: Schema['CouponView'], bead: Schema['BeadView']) =>
  beadCode(bead, besideOf(coupon, bead) > 1)

/** A bead as it is said in a button: `3b`, `the root`, `patch 1`. */
export function actNameOf(coupon: Schema['CouponView'], bead: Schema['BeadView']): string {
  const code = codeOf(coupon, bead)
  return code === 'root' ? 'the root' : code
}
