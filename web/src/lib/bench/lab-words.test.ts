// @vitest-environment jsdom
import { expect, test } from 'vitest'
import type { Schema } from '$lib/api/client'
import { units } from '$lib/units.svelte'
import { seenText } from './lab-words'

const found = (seen: object) => ({ specimen: 0, ...seen }) as Schema['LabFound']

test.each([
  [{ bend: { discontinuities: [] } }, 'nothing opened'],
  [
    { bend: { discontinuities: [{ sizeMm: 2, corner: true, fromSlagOrFusion: true }] } },
    'opened 2 mm at a corner from slag or fusion',
  ],
  [{ bend: { discontinuities: [{ sizeMm: null, corner: false }] } }, 'opened of no given size'],
  [{ nickBreak: { completePenetration: true, completeFusion: true, poresMm: [], slag: [] } }, 'nothing seen'],
  [
    { nickBreak: { completePenetration: false, poresMm: [1.5], porePercent: 2, slag: [{ lengthMm: 3 }] } },
    'not penetrated through, pore 1.5 mm, pores over 2 % of the face, slag 3 mm long',
  ],
  [{ filletBreak: { bentFlat: true, inclusionsMm: [] } }, 'bent flat'],
  [
    { filletBreak: { bentFlat: false, fusionToRoot: false, crack: true, inclusionsMm: [2] } },
    'not fused to the root, a crack, pore or inclusion 2 mm',
  ],
  [{ macro: { fusionComplete: true, legAMm: 8, legBMm: 9 } }, 'fused through, legs 8 mm and 9 mm'],
  [
    { macro: { fusionComplete: false, crack: true, undercutMm: 0.5 } },
    'not fused through, a crack, undercut 0.5 mm',
  ],
  [{ indications: [{ kind: 'crossPenetration', sizeMm: 4 }] }, 'cross penetration 4 mm'],
  [{ indications: [] }, 'nothing seen'],
])('what a laboratory saw is said in words: %o', (seen, says) => {
  units.set('mm')
  expect(seenText(found(seen))).toBe(says)
})
