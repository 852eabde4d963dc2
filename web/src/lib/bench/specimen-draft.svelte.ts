import type { Schema } from '$lib/api/client'
import { lengthText } from '$lib/units.svelte'

export type Seen = {
  corner: boolean
  slag: boolean
  penetrated: boolean
  fused: boolean
  bentFlat: boolean
  crack: boolean
  porePercent: number | null
  depthMm: number | null
}
type MacroKey =
  'legAMm' | 'legBMm' | 'faceWidthMm' | 'convexityMm' | 'undercutMm' | 'rootIndicationMm' | 'slagMm'
type Form = 'bend' | 'nickBreak' | 'filletBreak' | 'macro' | 'film'

const FORMS: Record<string, Form> = {
  nickBreak: 'nickBreak',
  tensile: 'nickBreak',
  filletBreak: 'filletBreak',
  macro: 'macro',
  radiograph: 'film',
}
const FILLET: [MacroKey, string][] = [
  ['legAMm', 'Leg, first'],
  ['legBMm', 'Leg, second'],
  ['faceWidthMm', 'Face width'],
  ['convexityMm', 'Bulge'],
]
const PLUG: [MacroKey, string][] = [['slagMm', 'All slag together']]
const SECTION: [MacroKey, string][] = [
  ['undercutMm', 'Undercut'],
  ['rootIndicationMm', 'At the root'],
]

/** What is seen on a specimen while it is entered: sound until something is tapped. */
export class SpecimenDraft {
  seen = $state<Seen>({
    corner: false,
    slag: false,
    penetrated: true,
    fused: true,
    bentFlat: false,
    crack: false,
    porePercent: null,
    depthMm: null,
  })
  sizes = $state<Partial<Record<MacroKey, number | null>>>({})
  film = $state<Schema['IndicationKind']>('rounded')
  openings = $state<Schema['BendDiscontinuity'][]>([])
  pores = $state<number[]>([])
  slag = $state<Schema['BreakSlag'][]>([])
  indications = $state<Schema['Indication'][]>([])
  readonly form: Form
  private readonly isFillet: boolean
  private readonly isPlug: boolean

  constructor(
    readonly index: number,
    kind: string,
    private readonly test: Schema['CouponTest'],
  ) {
    this.form = FORMS[kind] ?? 'bend'
    this.isFillet = test.joint.form === 'teeFillet' || test.joint.form === 'lapFillet'
    this.isPlug = test.joint.form === 'plug'
  }

  get macroMeasures() {
    return this.isPlug ? PLUG : this.isFillet ? [...FILLET, ...SECTION] : SECTION
  }

  addOpening(sizeMm: number) {
    this.openings.push({ sizeMm, corner: this.seen.corner, fromSlagOrFusion: this.seen.slag })
  }
  addPore(mm: number) {
    this.pores.push(mm)
  }
  addSlag(lengthMm: number) {
    this.slag.push({ depthMm: this.seen.depthMm, lengthMm, apartMm: null })
  }
  addIndication(sizeMm: number) {
    this.indications.push({ kind: this.film, sizeMm, atMm: null })
  }

  /** What was tapped so far, one line each. */
  get marks(): string[] {
    return [
      ...this.openings.map(
        (one) =>
          `opened ${lengthText(one.sizeMm!)}${one.corner ? ', corner' : ''}${one.fromSlagOrFusion ? ', slag or fusion' : ''}`,
      ),
      ...this.pores.map((mm) => `pore ${lengthText(mm)}`),
      ...this.slag.map((one) => `slag ${lengthText(one.lengthMm!)} long`),
      ...this.indications.map((one) => `${one.kind} ${lengthText(one.sizeMm!)}`),
    ]
  }

  remove(index: number) {
    for (const list of [this.openings, this.pores, this.slag, this.indications] as unknown[][]) {
      if (index < list.length) return void list.splice(index, 1)
      index -= list.length
    }
  }

  toBody(): Partial<Schema['BenchEventBody']> {
    const { penetrated, fused, bentFlat, crack, porePercent } = this.seen
    const wallMm = this.test.thicknessMm
    const specimen = this.index
    switch (this.form) {
      case 'bend':
        return { specimen, bend: { wallMm, discontinuities: this.openings } }
      case 'nickBreak':
        return {
          specimen,
          nickBreak: {
            completePenetration: penetrated,
            completeFusion: fused,
            wallMm,
            porePercent: porePercent ?? (this.pores.length ? null : 0),
            poresMm: this.pores,
            slag: this.slag,
          },
        }
      case 'filletBreak':
        return {
          specimen,
          filletBreak: { bentFlat, fusionToRoot: fused, crack, inclusionsMm: this.pores },
        }
      case 'macro':
        return {
          specimen,
          macro: {
            fillet: this.isFillet,
            plug: this.isPlug,
            slagMm: this.isPlug ? (this.sizes.slagMm ?? 0) : null,
            crack,
            fusionComplete: fused,
            rootIndicationMm: this.sizes.rootIndicationMm ?? 0,
            legAskedMm: this.isFillet ? (this.test.joint.legMm ?? null) : null,
            legAMm: this.sizes.legAMm ?? null,
            legBMm: this.sizes.legBMm ?? null,
            faceWidthMm: this.sizes.faceWidthMm ?? null,
            convexityMm: this.sizes.convexityMm ?? null,
            concavityMm: null,
            undercutMm: this.sizes.undercutMm ?? 0,
          },
        }
      default:
        return { specimen, indications: this.indications }
    }
  }
}

export function specimenSays(draft: SpecimenDraft): string {
  const { penetrated, fused, crack } = draft.seen
  return draft.marks.length
    ? `Keep it with ${draft.marks.length} seen`
    : penetrated && fused && !crack
      ? 'Keep it: sound'
      : 'Keep it as tapped'
}
