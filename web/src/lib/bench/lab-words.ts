import type { Schema } from '$lib/api/client'
import { lengthText } from '$lib/units.svelte'
import { spaced } from '$lib/words'

type Found = Schema['LabFound']

const length = (mm: number | null | undefined) => (mm == null ? 'of no given size' : lengthText(mm))

/** What a laboratory saw on a specimen, in words; what it says nothing of is not said. */
export function seenText(found: Found): string {
  const said = [...ofBend(found), ...ofBreak(found), ...ofFillet(found), ...ofMacro(found), ...ofFilm(found)]
  return said.join(', ')
}

function ofBend({ bend }: Found): string[] {
  if (!bend) return []
  if (!bend.discontinuities.length) return ['nothing opened']
  return bend.discontinuities.map(
    (one) =>
      `opened ${length(one.sizeMm)}${one.corner ? ' at a corner' : ''}${one.fromSlagOrFusion ? ' from slag or fusion' : ''}`,
  )
}

function ofBreak({ nickBreak }: Found): string[] {
  if (!nickBreak) return []
  return orSound([
    ...(nickBreak.completePenetration === false ? ['not penetrated through'] : []),
    ...(nickBreak.completeFusion === false ? ['not fused through'] : []),
    ...nickBreak.poresMm.map((mm) => `pore ${length(mm)}`),
    ...(nickBreak.porePercent ? [`pores over ${nickBreak.porePercent} % of the face`] : []),
    ...nickBreak.slag.map((one) => `slag ${length(one.lengthMm)} long`),
  ])
}

function ofFillet({ filletBreak }: Found): string[] {
  if (!filletBreak) return []
  if (filletBreak.bentFlat) return ['bent flat']
  return orSound([
    ...(filletBreak.fusionToRoot === false ? ['not fused to the root'] : []),
    ...(filletBreak.crack ? ['a crack'] : []),
    ...filletBreak.inclusionsMm.map((mm) => `pore or inclusion ${length(mm)}`),
  ])
}

function ofMacro({ macro }: Found): string[] {
  if (!macro) return []
  const legs = [macro.legAMm, macro.legBMm].filter((mm) => mm != null).map((mm) => lengthText(mm!))
  return [
    ...(macro.fusionComplete === false ? ['not fused through'] : []),
    ...(macro.fusionComplete === true ? ['fused through'] : []),
    ...(macro.crack ? ['a crack'] : []),
    ...(legs.length ? [`legs ${legs.join(' and ')}`] : []),
    ...(macro.convexityMm ? [`bulges ${lengthText(macro.convexityMm)}`] : []),
    ...(macro.undercutMm ? [`undercut ${lengthText(macro.undercutMm)}`] : []),
    ...(macro.rootIndicationMm ? [`at the root ${lengthText(macro.rootIndicationMm)}`] : []),
    ...(macro.slagMm ? [`slag ${lengthText(macro.slagMm)}`] : []),
  ]
}

function ofFilm({ indications }: Found): string[] {
  if (!indications) return []
  return orSound(indications.map((one) => `${spaced(one.kind)} ${length(one.sizeMm)}`))
}

const orSound = (said: string[]) => (said.length ? said : ['nothing seen'])
