import { describe, expect, it } from 'vitest'
import { ask, newId, Refused } from './client'

describe('new ids', () => {
  it('are GUIDs of version 7 (RFC 9562) that sort by time', () => {
    const early = newId(1_700_000_000_000)
    const late = newId(1_700_000_000_001)
    expect(early).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/)
    expect(parseInt(early.replaceAll('-', '').slice(0, 12), 16)).toBe(1_700_000_000_000)
    expect(early < late).toBe(true)
  })
})

describe('answers', () => {
  it("throw the server's own words, field by field", async () => {
    const response = new Response(null, { status: 400 })
    const error = { title: 'No.', errors: { depthMm: ['A depth is a number.'] } }
    await expect(ask(Promise.resolve({ error, response }))).rejects.toSatisfy(
      (thrown) =>
        thrown instanceof Refused && thrown.message === 'A depth is a number.' && 'depthMm' in thrown.fields,
    )
  })
})
