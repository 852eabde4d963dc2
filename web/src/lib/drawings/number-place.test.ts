import { describe, expect, it } from 'vitest'
import { centreOf, numberPlace } from './number-place'

const box = (wide: number, high: number) => [
  { x: 0, y: 0 },
  { x: wide, y: 0 },
  { x: wide, y: high },
  { x: 0, y: high },
]

describe('where the number of a bead stands', () => {
  it('is the middle of a plain bead, and no larger than is needed', () => {
    expect(centreOf(box(8, 6))).toEqual({ x: 4, y: 3 })
    expect(numberPlace(box(8, 6), 2)).toMatchObject({ x: 4, y: 3, size: 2.1 })
  })

  it('is smaller in a thin bead and in a narrow one', () => {
    const thin = numberPlace(box(8, 1), 2)!
    expect(thin.size * 0.72).toBeLessThan(1)
    const narrow = numberPlace(box(1.4, 6), 2)!
    expect(narrow.size * 0.47 * 2).toBeLessThan(1.4)
  })

  it('lies within a bowed bead whose middle is thinner than it is high', () => {
    const bow = (height: number) =>
      Array.from({ length: 21 }, (_, index) => ({
        x: index / 2,
        y: height + 2 * Math.sin((Math.PI * index) / 20),
      }))
    const outline = [...bow(0), ...bow(1.2).toReversed()]
    const { x, y, size } = numberPlace(outline, 2)!
    const inner = (at: number) => 2 * Math.sin((Math.PI * at) / 10)
    for (const at of [x - size * 0.47, x, x + size * 0.47]) {
      expect(y - size * 0.36).toBeGreaterThan(inner(at))
      expect(y + size * 0.36).toBeLessThan(1.2 + inner(at))
    }
  })

  it('is nowhere where nothing could be read', () => expect(numberPlace(box(8, 0.3), 1)).toBeNull())
})
