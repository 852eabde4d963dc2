import type { Schema } from '$lib/api/client'
import type { Dimension } from '$lib/drawings/JointSection.svelte'
import type { Tag } from '$lib/drawings/SpecimenTag.svelte'
import { lengthText } from '$lib/units.svelte'

/** What is measured of the finished weld: the height of the face, and of the root from each side. */
export type LookSide = 'face' | 'rootA' | 'rootB'

/** The look at a finished coupon, as the drawing of it shows it. */
export type Look = {
  places: readonly string[]
  isMeasured: (at: string) => boolean
  dimensions: (at: string) => Record<string, Dimension>
  choose: (key: string) => void
}

/** The specimens of a coupon as they are cut, on the drawing of it. */
export type Cut = { tagOf: (index: number) => Tag }

const SHORT: Record<string, string> = {
  vise: 'vise',
  filletBreak: 'break',
  nickBreak: 'nick',
  radiograph: 'film',
}

/** The specimens that are cut, with the one that is being tested; null where none is. */
export function cutOf(
  coupon: Schema['CouponView'],
  chosen: number | null,
  choose: (index: number) => void,
): Cut | null {
  if (coupon.drillId || coupon.life.voidReason != null || !coupon.test.specimens.length) return null
  const verdicts = new Map(coupon.life.specimens.map((one) => [one.specimen, one.verdict.kind]))
  return {
    tagOf: (index) => {
      const { kind } = coupon.test.specimens[index]!
      return {
        name: SHORT[kind] ?? kind,
        verdict: verdicts.get(index) ?? null,
        chosen: chosen === index,
        choose: () => choose(index),
      }
    },
  }
}

export const LOOK_SIDES: {
  id: LookSide
  name: string
  body: Pick<Schema['BenchEventBody'], 'side' | 'member'>
}[] = [
  { id: 'face', name: 'Face', body: { side: 'face', member: null } },
  { id: 'rootA', name: 'Root, left', body: { side: 'root', member: 'a' } },
  { id: 'rootB', name: 'Root, right', body: { side: 'root', member: 'b' } },
]

/** Where face and root are measured. */
export const lookPlaces = (coupon: Schema['CouponView']): readonly string[] =>
  coupon.test.product === 'pipe' ? coupon.test.fitUp.points : ['start', 'middle', 'end']

type Measured = Schema['CouponView']['life']['measures'][number]

/** Whether a measure is one of a side at a place. */
function isOf(measure: Measured, side: LookSide, at: string): boolean {
  const body = LOOK_SIDES.find((one) => one.id === side)!.body
  return (
    measure.body.at === at &&
    measure.body.side === body.side &&
    (measure.body.member ?? null) === (body.member ?? null)
  )
}

/** The height that was measured last on a side at a place; undefined where none was. */
export const heightAt = (coupon: Schema['CouponView'], side: LookSide, at: string): number | undefined =>
  coupon.life.measures.findLast((one) => isOf(one, side, at))?.body.heightMm ?? undefined

/** What was measured last of a fillet at a place; undefined where nothing was. */
export const filletAt = (coupon: Schema['CouponView'], at: string) =>
  coupon.life.events.findLast((one) => one.kind === 'measured' && one.body.fillet && one.body.at === at)?.body
    .fillet

/** Whether a coupon is a fillet: its legs are measured, not its height over flush. */
export const isFillet = (coupon: Schema['CouponView']) => coupon.test.joint.legMm != null

export const heightText = (mm: number) =>
  mm === 0 ? 'flush' : mm < 0 ? `${lengthText(-mm)} low` : `${lengthText(mm)} high`

/** The look at a coupon, with the side that is being measured. */
export function lookAt(coupon: Schema['CouponView'], side: LookSide, choose: (side: LookSide) => void): Look {
  return {
    places: lookPlaces(coupon),
    isMeasured: (at) =>
      isFillet(coupon)
        ? filletAt(coupon, at) !== undefined
        : LOOK_SIDES.some((one) => heightAt(coupon, one.id, at) !== undefined),
    dimensions: (at) =>
      isFillet(coupon)
        ? filletLegs(coupon, at, side === 'face')
        : Object.fromEntries(
            LOOK_SIDES.map(({ id, name }) => {
              const mm = heightAt(coupon, id, at)
              return [
                id,
                {
                  key: id,
                  text: `${name.split(',')[0]!.toLowerCase()} ${mm === undefined ? '?' : heightText(mm)}`,
                  state: mm === undefined ? 'open' : overLimit(coupon, id, at) ? 'mend' : 'set',
                  active: side === id,
                } satisfies Dimension,
              ]
            }),
          ),
    choose: (key) => choose(key as LookSide),
  }
}

/** On the drawing of a fillet: its legs at a place. */
function filletLegs(coupon: Schema['CouponView'], at: string, active: boolean): Record<string, Dimension> {
  const fillet = filletAt(coupon, at)
  const legs = [fillet?.legAMm, fillet?.legBMm].filter((mm) => mm != null).map((mm) => lengthText(mm!))
  return {
    face: {
      key: 'face',
      text: `legs ${legs.length ? legs.join(' · ') : '?'}`,
      state: fillet ? 'set' : 'open',
      active,
    },
  }
}

/** Whether the height at a place is one that rejects the coupon. */
const overLimit = (coupon: Schema['CouponView'], side: LookSide, at: string): boolean =>
  coupon.verdict.reasons.some((reason) => {
    const measure = coupon.life.measures[reason.finding - coupon.findings.length]
    return reason.outcome === 'reject' && measure !== undefined && isOf(measure, side, at)
  })
