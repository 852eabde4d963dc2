import { describe, expect, it } from 'vitest'
import { clockText } from './ticking.svelte'

describe('time on a timer', () => {
  it('is minutes and seconds, and hours when there are any', () => {
    expect(clockText(0)).toBe('0:00')
    expect(clockText(65_000)).toBe('1:05')
    expect(clockText(3_723_000)).toBe('1:02:03')
  })
  it('goes on past what was due', () => expect(clockText(-61_000)).toBe('−1:01'))
})
