import { readFileSync } from 'node:fs'
// @vitest-environment jsdom
import { describe, expect, it } from 'vitest'
import {
  AREA,
  celsius,
  chips,
  degrees,
  degreesText,
  exactText,
  FLOW,
  HEAT,
  inchParts,
  inUnits,
  lengthText,
  MASS,
  quantityText,
} from './units.svelte'

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

describe('the unit pairs', () => {
  // NIST SP 811, appendix B: 1 in² = 645.16 mm², 1 lb = 453.59237 g, 1 ft³/h = 0.471 947 L/min, t/°F = 1.8 t/°C + 32.
  it.each([
    [645.16, AREA, '1 in²', '645.2 mm²'],
    [0.45359237, MASS, '1 lb', '453.6 g'],
    [0.471947, FLOW, '1 ft³/h', '0.4719 L/min'],
    [1, HEAT, '25.4 kJ/in', '1 kJ/mm'],
  ])('shows %d as both', (kept, of, inches, metric) => {
    expect(quantityText(kept, of, 'in')).toBe(inches)
    expect(quantityText(kept, of, 'mm')).toBe(metric)
  })

  it('knows the fixed points of both scales', () => {
    expect(degreesText(0, 'in')).toBe('32 °F')
    expect(degreesText(100, 'in')).toBe('212 °F')
    expect(degreesText(-40, 'in')).toBe('-40 °F')
    expect(degreesText(177, 'mm')).toBe('177 °C')
    for (const at of [-40, 10, 176.67, 315]) expect(celsius(degrees(at, 'in'), 'in')).toBeCloseTo(at, 9)
  })
})

describe('words with lengths in them', () => {
  it.each([
    ['Stop 1/32 to 1/16 in below flush.', 'Stop 0.8 to 1.6 mm below flush.'],
    ['Undercut not longer than 2 in in any 12 in.', 'Undercut not longer than 50.8 mm in any 304.8 mm.'],
    ['Flat 3/8 × 4 in', 'Flat 9.5 × 101.6 mm'],
    ['E7018 1/8 in', 'E7018 3.2 mm'],
    ['E71T-11 0.045 in', 'E71T-11 1.1 mm'],
    ['never over 1 1/2 in high', 'never over 38.1 mm high'],
  ])('says %s in millimetres', (words, metric) => expect(inUnits(words, 'mm')).toBe(metric))

  it.each([
    '5 clean in a row',
    '3 in the last month',
    'P1 in a booth',
    'Rejected in 4 in all',
    'Laid at 12:30 in the root',
    'ASME IX QW-304.1',
  ])('leaves %s alone', (words) => {
    expect(inUnits(words, 'mm')).toBe(words)
    expect(inUnits(words, 'in')).toBe(words)
  })

  it.each([
    ['12.7 mm from the start, 3.2 mm deep', '1/2 in from the start, 1/8 in deep'],
    ['Undercut not deeper than 0.1 t, at most 0.5 mm.', 'Undercut not deeper than 0.1 t, at most 1/64 in.'],
    ['180 °C; let it cool under 175 °C.', '356 °F; let it cool under 347 °F.'],
    ['16 mm² and 3 mm/min', '16 mm² and 3 mm/min'],
  ])('says %s in inches', (words, inches) => expect(inUnits(words, 'in')).toBe(inches))

  it('changes nothing that is in the unit already', () => {
    expect(inUnits('1/32 in', 'in')).toBe('1/32 in')
    expect(inUnits('0.5 mm, 20 °C', 'mm')).toBe('0.5 mm, 20 °C')
  })
})

describe('what the coach says, in millimetres', () => {
  const coach = JSON.parse(readFileSync('../src/Gradus.Core/Vocabulary/wording/es.json', 'utf8')) as {
    says: Record<string, string>
  }
  const sentences = Object.entries(coach.says).flat()

  it('leaves no length in inches, and none half said', () => {
    expect(sentences.length).toBeGreaterThan(1000)
    // As they are shown: a diameter is put in as a fraction.
    const left = sentences
      .map((sentence) =>
        sentence.replace(/\{[\d.]+d\}/g, '1/8 in').replace(/\{(seconds|min|max|length)\}/g, '6'),
      )
      .map((sentence) => inUnits(sentence, 'mm'))
      // Shares of a bead and of an hour stay fractions.
      .filter((said) =>
        /\d\/\d(?! (?:of|del|h)\b)|\d in\b/.test(
          said.replace(/(\d\/\d) (?:to|a) (?=\d\/\d (?:of|del))/g, ''),
        ),
      )
    expect(left).toEqual([])
  })

  it('reads ranges in both languages alike', () => {
    expect(inUnits('Sal 1/8 a 1/4 in, presiona', 'mm')).toBe('Sal 3.2 a 6.4 mm, presiona')
    expect(inUnits('Out 1/8 to 1/4 in, press', 'mm')).toBe('Out 3.2 to 6.4 mm, press')
    expect(inUnits('1 in cada 10 s', 'mm')).toBe('25.4 mm cada 10 s')
    expect(inUnits('done 3 in a row', 'mm')).toBe('done 3 in a row')
    expect(inUnits('the oven (250 to 300 °F)', 'mm')).toBe('the oven (121 to 149 °C)')
    expect(inUnits('horno a 250 °F o más', 'mm')).toBe('horno a 121 °C o más')
  })
})
