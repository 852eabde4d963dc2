import { describe, expect, it } from 'vitest'
import { readTyped } from './keyed'

describe('what a device types', () => {
  it('opens a tag wherever it was printed', () => {
    expect(readTyped('https://shop.example:5443/coupons/01a22f26-9f3b-719f-bc19-d997c6788676')).toEqual({
      kind: 'place',
      path: '/coupons/01a22f26-9f3b-719f-bc19-d997c6788676',
    })
    expect(readTyped('http://10.0.0.7:5080/library/R3?from=print')).toEqual({
      kind: 'place',
      path: '/library/R3',
    })
  })

  it('leads to no page that it does not know', () => {
    for (const text of [
      'https://elsewhere.example/',
      'javascript:alert(1)//coupons/1',
      'https://a.example/school',
      '//coupons/1',
    ])
      expect(readTyped(text)).toBeNull()
  })

  it('reads a stamp, and not a word', () => {
    expect(readTyped('AANN4')).toEqual({ kind: 'stamp', stamp: 'AANN4' })
    expect(readTyped('HELLO')).toBeNull()
    expect(readTyped('aann4')).toBeNull()
  })

  it('reads a gauge in either unit and with either point', () => {
    expect(readTyped('1.6')).toEqual({ kind: 'reading', text: '1.6' })
    expect(readTyped('12,25mm')).toEqual({ kind: 'reading', text: '12.25mm' })
    expect(readTyped('.062"')).toEqual({ kind: 'reading', text: '.062"' })
    for (const text of ['mm', '1.2.3', '12345', '-3.1']) expect(readTyped(text)).toBeNull()
  })
})
