import type { Schema } from '$lib/api/client'
import type { Dimension } from '$lib/drawings/JointSection.svelte'
import { lengthText } from '$lib/units.svelte'

type Point = Schema['FitUpPoint']
type MeasureKey =
  'rootOpeningMm' | 'rootFaceMm' | 'bevelDegA' | 'bevelDegB' | 'offsetMm' | 'stripGapMm' | 'ringGapMm'

const MEASURE_NAMES: Record<MeasureKey, string> = {
  rootOpeningMm: 'Root opening (gap)',
  rootFaceMm: 'Root face (land)',
  bevelDegA: 'Bevel, left',
  bevelDegB: 'Bevel, right',
  offsetMm: 'Offset (hi-lo)',
  stripGapMm: 'Gap at the strip',
  ringGapMm: 'Gap of the insert ring',
}

const ORDER = Object.keys(MEASURE_NAMES) as MeasureKey[]

/** A fit-up while it is being measured: what is entered so far, kept in this browser until it is recorded. */
export class FitUpDraft {
  points = $state<Record<string, Partial<Point>>>({})
  tacks = $state<Schema['Tack'][]>([])
  answers = $state<Record<string, boolean>>({})
  active = $state<MeasureKey>('rootOpeningMm')
  /** The measures that this joint has: those that its plan holds to a tolerance. */
  readonly measures: MeasureKey[]

  private constructor(
    readonly couponId: string,
    readonly test: Schema['CouponTest'],
  ) {
    const held: string[] = test.fitUp.tolerances.map((tolerance) => tolerance.measure)
    const bevels = held.includes('includedAngleDeg')
    this.measures = ORDER.filter(
      (measure) => held.includes(measure) || (bevels && (measure === 'bevelDegA' || measure === 'bevelDegB')),
    )
    this.active = this.measures[0] ?? 'rootOpeningMm'
  }

  static open(coupon: Schema['CouponView']): FitUpDraft {
    const draft = new FitUpDraft(coupon.id, coupon.test)
    const kept = localStorage.getItem(draft.key)
    const from = kept ? JSON.parse(kept) : coupon.fitUp.measured
    if (from) {
      for (const point of from.points as Point[]) draft.points[point.at] = point
      draft.tacks = from.tacks
      draft.answers = from.answers
    }
    return draft
  }

  /** What a measure is called on this joint: of a plug the opening is its hole, of a fillet the gap between its members. */
  nameOf(measure: MeasureKey): string {
    const { form } = this.test.joint
    return measure !== 'rootOpeningMm'
      ? MEASURE_NAMES[measure]
      : form === 'plug'
        ? 'Width of the hole'
        : form === 'teeFillet' || form === 'lapFillet'
          ? 'Gap between the members'
          : MEASURE_NAMES[measure]
  }

  private get key() {
    return `gradus.fit-up.${this.couponId}`
  }

  planned(measure: MeasureKey): number {
    const { joint } = this.test
    return measure === 'offsetMm' || measure === 'stripGapMm' || measure === 'ringGapMm' ? 0 : joint[measure]
  }

  value(at: string, measure: MeasureKey): number | null {
    return this.points[at]?.[measure] ?? null
  }

  isMeasured(at: string): boolean {
    return this.measures.every((measure) => this.value(at, measure) !== null)
  }

  get complete(): boolean {
    return this.test.fitUp.points.every((at) => this.isMeasured(at))
  }

  choose(measure: string) {
    this.active = measure as MeasureKey
  }

  /** Takes a value and moves on to the next measure here that is not taken yet. */
  set(at: string, measure: MeasureKey, value: number | null) {
    this.points[at] = { ...this.points[at], at, [measure]: value }
    this.active = this.measures.find((one) => this.value(at, one) === null) ?? this.active
    this.keep()
  }

  /** Everything not yet measured here is as drawn. */
  asDrawn(at: string) {
    for (const measure of this.measures) {
      if (this.value(at, measure) === null)
        this.points[at] = { ...this.points[at], at, [measure]: this.planned(measure) }
    }
    this.keep()
  }

  /** The tack that is being looked at; null when none is. */
  tack = $state<number | null>(null)

  setTacks(tacks: Schema['Tack'][]) {
    this.tacks = tacks
    this.tack = null
    this.keep()
  }

  /** Puts a tack at a place, like the last one; a place that has one already is looked at instead. */
  placeTack(at: string) {
    const known = this.tacks.findIndex((tack) => this.placeOf(tack.at) === this.placeOf(at))
    if (known < 0) {
      const { minLengthMm, feathered, bridged } = this.test.fitUp.tacks
      const like = this.tacks.at(-1) ?? { lengthMm: minLengthMm * 2, feathered, bridged }
      this.tacks = [...this.tacks, { ...like, at }]
    }
    this.tack = known < 0 ? this.tacks.length - 1 : known
    this.keep()
  }

  changeTack(index: number, change: Partial<Schema['Tack']>) {
    this.tacks = this.tacks.map((tack, other) => (other === index ? { ...tack, ...change } : tack))
    this.keep()
  }

  removeTack(index: number) {
    this.setTacks(this.tacks.filter((_, other) => other !== index))
  }

  /** Where a tack is on the drawing: a clock position on pipe, mm from the start on plate. */
  placeOf(at: string): string | number {
    if (this.test.product === 'pipe') return at.includes(':') ? at : `${at}:00`
    return at === 'start' ? 0 : at === 'end' ? (this.test.lengthMm ?? 0) : Number(at)
  }

  answer(id: string, yes: boolean) {
    this.answers = { ...this.answers, [id]: yes }
    this.keep()
  }

  toRequest(): Schema['RecordFitUp'] {
    const points = this.test.fitUp.points
      .filter((at) => this.points[at])
      .map((at) => ({
        bevelDegA: null,
        bevelDegB: null,
        rootOpeningMm: null,
        rootFaceMm: null,
        offsetMm: null,
        stripGapMm: null,
        ringGapMm: null,
        ...this.points[at],
        at,
      }))
    return { points, tacks: this.tacks, answers: this.answers }
  }

  forget() {
    localStorage.removeItem(this.key)
  }

  dimensions(at: string, lines: Schema['FitUpLine'][]): Record<string, Dimension> {
    return Object.fromEntries(
      this.measures.map((measure) => {
        const value = this.value(at, measure)
        const shown = value ?? this.planned(measure)
        const text = measure.startsWith('bevel') ? `${shown}°` : lengthText(shown)
        const line = lines.find((one) => one.at === at && one.measure === measure && one.measured === value)
        const state = value === null ? 'open' : line?.outcome === 'mend' ? 'mend' : 'set'
        return [
          measure,
          {
            key: measure,
            text: `${LABELS[measure]} ${text}`,
            state,
            active: this.active === measure,
          } satisfies Dimension,
        ]
      }),
    )
  }

  private keep() {
    localStorage.setItem(this.key, JSON.stringify(this.toRequest()))
  }
}

const LABELS: Record<MeasureKey, string> = {
  rootOpeningMm: 'gap',
  rootFaceMm: 'face',
  bevelDegA: 'bevel',
  bevelDegB: 'bevel',
  offsetMm: 'hi-lo',
  stripGapMm: 'strip',
  ringGapMm: 'ring',
}
