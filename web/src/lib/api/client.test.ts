import { describe, expect, it } from 'vitest'
import { ask, askedAhead, newId, Refused } from './client'

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

describe('what was asked ahead of the scripts', () => {
  const ahead = (at: number, answer: Promise<Response | undefined>) =>
    Object.assign(globalThis, { gradusAhead: { at, answers: { '/api/floor': answer } } })
  const floor = () => new Request('http://school/api/floor')

  it('answers the first such question, once', async () => {
    ahead(1000, Promise.resolve(new Response('floor')))
    expect(await (await askedAhead(floor(), 2000))?.text()).toBe('floor')
    expect(await askedAhead(floor(), 2000)).toBeUndefined()
  })

  it.each([
    ['nobody was signed in', 2000, Promise.resolve(new Response(null, { status: 401 })), floor()],
    ['it is old', 9000, Promise.resolve(new Response('floor')), floor()],
    ['it failed', 2000, Promise.resolve(undefined), floor()],
    [
      'another thing is asked',
      2000,
      Promise.resolve(new Response('floor')),
      new Request('http://school/api/floor?day=1'),
    ],
    [
      'something is written',
      2000,
      Promise.resolve(new Response('floor')),
      new Request('http://school/api/floor', { method: 'PUT' }),
    ],
  ])('is passed over when %s', async (_, now, answer, request) => {
    ahead(1000, answer)
    expect(await askedAhead(request, now)).toBeUndefined()
  })
})
