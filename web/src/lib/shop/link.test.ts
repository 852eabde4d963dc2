import { describe, expect, it } from 'vitest'
import { cardLink, pick } from './link'

describe('the numbers of a card', () => {
  it('come back unrounded from its link', () => {
    const values = { t: 10.9728, bevel: 37.5, kind: 'pipe', strip: true }
    const query = new URL(cardLink('groove', values, 'http://school')).searchParams
    expect(query.get('card')).toBe('groove')
    expect(pick({ t: 0, bevel: 0, kind: 'plate', strip: false }, (key) => query.get(key))).toEqual(values)
  })

  it('leave out what is not a number and what the card does not have', () => {
    const query = new URLSearchParams({ t: 'NaN', bevel: '', kind: 'pipe', other: '1' })
    expect(pick({ t: 1, bevel: 2, kind: 'plate' }, (key) => query.get(key))).toEqual({ kind: 'pipe' })
  })
})
