import { describe, expect, it } from 'vitest'
import { chips, exactText, inchParts, lengthText } from './units.svelte'

describe('lengths as the shop reads them', () => {
  // Decimal equivalents of inch fractions, times 25.4 mm exactly (ISO/IEC 80000-3).
  it.each([
    [2.38125, '3/32 in'],
    [38.1, '1 1/2 in'],
    [25.4, '1 in'],
    [0, '0 in'],
    [25.003125, '63/64 in'],
  ])('shows %d mm as %s', (mm, text) => expect(lengthText(mm, 'in')).toBe(text))

  it('shows millimetres to a tenth without a trailing zero', () => {
    expect(lengthText(38.1, 'mm')).toBe('38.1 mm')
    expect(lengthText(2, 'mm')).toBe('2 mm')
  })

  it('offers sizes that read back as the fraction they were made from', () => {
    for (const mm of chips([1, 2, 3, 6, 16, 20], [], 'in')) {
      const { whole, top, bottom } = inchParts(mm)
      expect((whole + top / bottom) * 25.4).toBeCloseTo(mm, 9)
    }
  })

  it('never lets a small length look like none', () => {
    expect(lengthText(0.05, 'in')).toBe('0.002 in')
    expect(lengthText(0, 'in')).toBe('0 in')
  })

  it('writes a length back as the shop would, unrounded', () => {
    expect(exactText(9.525, 'in')).toBe('3/8')
    expect(exactText(1.143, 'in')).toBe('0.045')
    expect(exactText(1.143, 'mm')).toBe('1.143')
  })
})
