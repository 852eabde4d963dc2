// @vitest-environment jsdom
import { beforeEach, expect, it, vi } from 'vitest'

const session = vi.hoisted(() => ({
  view: { authorTicket: 'ticket', person: { id: 'ana', name: 'Ana Quist' } },
  isStudent: false,
  expire: vi.fn(),
}))
vi.mock('$lib/session.svelte', () => ({ session }))
const { outbox } = await import('./outbox.svelte')

type Answer = number | 'away' | 'slow'
let answers: Answer[] = []
let sent: string[] = []
let inFlight = 0
let most = 0

const pass = (name: string) => ({
  method: 'PUT' as const,
  path: `/api/coupons/c/notes/${name}`,
  body: { text: name },
  couponId: 'c',
  label: name,
})

beforeEach(() => {
  outbox.items = []
  outbox.holdup = null
  outbox.isKept = false // what the browser's own database does has tests in the browser
  session.isStudent = false
  session.view.person = { id: 'ana', name: 'Ana Quist' }
  ;[answers, sent, inFlight, most] = [[], [], 0, 0]
  vi.stubGlobal('fetch', async (path: string) => {
    most = Math.max(most, ++inFlight)
    const answer = answers.shift() ?? 200
    await new Promise((done) => setTimeout(done, answer === 'slow' ? 20 : 1))
    inFlight--
    if (answer === 'away') throw new TypeError('no way there')
    sent.push(path.split('/').at(-1)!)
    const status = answer === 'slow' ? 200 : answer
    return new Response(JSON.stringify({ title: `answered ${status}` }), { status })
  })
})

it('what waits goes in the order in which it was written, each once, when the way is there again', async () => {
  answers = ['away', 'away', 'away']
  for (const name of ['a', 'b', 'c']) expect(await outbox.send(pass(name))).toBe(false)
  expect([sent, outbox.holdup]).toEqual([[], 'unreachable'])
  await outbox.flush()
  expect([sent, outbox.items, outbox.holdup]).toEqual([['a', 'b', 'c'], [], null])
})

it('two that are written in one moment are two', async () => {
  vi.spyOn(Date, 'now').mockReturnValue(1_000)
  answers = ['away', 'away']
  await Promise.all([outbox.send(pass('a')), outbox.send(pass('b'))])
  vi.restoreAllMocks()
  answers = [200, 'away']
  await outbox.flush()
  expect([sent, outbox.waiting.map((one) => one.label)]).toEqual([['a'], ['b']])
})

it('sent from everywhere at once, nothing goes twice and nothing side by side', async () => {
  answers = ['away', 'away', 'slow']
  await outbox.send(pass('a'))
  await outbox.send(pass('b'))
  await Promise.all([outbox.flush(), outbox.flush(), outbox.send(pass('c')), outbox.flush()])
  expect([sent, most]).toEqual([['a', 'b', 'c'], 1])
})

it('a server in trouble holds what comes behind, so that nothing overtakes', async () => {
  answers = ['away', 'away', 503]
  await outbox.send(pass('a'))
  await outbox.send(pass('b'))
  await outbox.flush()
  expect([sent, outbox.waiting.map((one) => one.label)]).toEqual([['a'], ['a', 'b']])
  expect(outbox.holdup).toEqual({ says: 'answered 503' })
  await outbox.flush()
  expect([sent, outbox.items]).toEqual([['a', 'a', 'b'], []])
})

it('a session that ended keeps everything and asks who is there', async () => {
  answers = [401]
  expect(await outbox.send(pass('a'))).toBe(false)
  expect([outbox.holdup, outbox.waiting.length]).toEqual(['signedOut', 1])
  expect(session.expire).toHaveBeenCalled()
})

it.each([400, 403, 404, 413, 415, 422])(
  '%i is told to whoever wrote it and does not wait; what waits behind goes on',
  async (status) => {
    answers = ['away']
    await outbox.send(pass('behind'))
    answers = [200, status]
    await expect(outbox.send(pass('wrong'))).rejects.toThrow(`answered ${status}`)
    expect([outbox.items, outbox.holdup]).toEqual([[], null])
  },
)

it('a clash, and a refusal after the page was left, wait to be settled and stop nobody', async () => {
  answers = [409]
  await expect(outbox.send(pass('a'))).rejects.toThrow('answered 409')
  answers = ['away', 'away']
  await outbox.send(pass('b'))
  await outbox.send(pass('c'))
  answers = [400, 200]
  await outbox.flush()
  expect(outbox.refused.map((one) => [one.label, one.refused])).toEqual([
    ['a', 'answered 409'],
    ['b', 'answered 400'],
  ])
  expect(sent.at(-1)).toBe('c')
  await outbox.again(outbox.refused[0]!.seq!)
  expect(outbox.items.map((one) => one.label)).toEqual(['b'])
})

it('what an instructor wrote is not sent in the name of a student, and goes when the instructor is back', async () => {
  answers = ['away']
  await outbox.send(pass('of Ana'))
  session.isStudent = true
  session.view.person = { id: 'tor', name: 'Tor Bakke' }
  await outbox.send(pass('of Tor'))
  expect([sent, outbox.waiting.map((one) => one.label)]).toEqual([['of Tor'], ['of Ana']])
  session.isStudent = false
  session.view.person = { id: 'ana', name: 'Ana Quist' }
  await outbox.flush()
  expect(outbox.items).toEqual([])
})
