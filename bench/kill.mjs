// Kills the server with SIGKILL again and again while passes are being logged, and looks whether every write that was
// acknowledged is there, once. Prints one line; fails when one is lost or doubled. Needs a built server (./gradus kills builds it).
import { randomUUID } from 'node:crypto'
import { Server } from '../tests/e2e/server.mjs'

const ROUNDS = Number(process.env.ROUNDS ?? 50)
const WRITERS = 4
const server = new Server()
let cookie = ''

const call = async (method, path, body) => {
  const response = await fetch(server.url + path, {
    method,
    headers: { 'content-type': 'application/json', cookie },
    body: body === undefined ? undefined : JSON.stringify(body),
  })
  if (!response.ok) throw Object.assign(new Error(`${method} ${path}: ${response.status} ${await response.text()}`), { refused: true })
  return response
}

async function signIn() {
  const { instructors } = await (await fetch(`${server.url}/api/session`)).json()
  const answer = await call('POST', '/api/session', { instructorId: instructors[0].id, pin: '2468' })
  cookie = answer.headers.getSetCookie()[0].split(';')[0]
}

await server.start()
await signIn()
const floor = await (await call('GET', '/api/floor')).json()
const coupons = floor.students.filter((one) => one.open).map((one) => one.open.id)
const sent = new Map(coupons.map((id) => [id, []])) // every note ever sent, with whether it was acknowledged
let [acknowledged, cut] = [0, 0]

for (let round = 1; round <= ROUNDS; round++) {
  let stop = false
  const writers = Array.from({ length: WRITERS }, async (_, writer) => {
    while (!stop) {
      const coupon = coupons[(round + writer) % coupons.length]
      const note = { id: randomUUID(), text: `round ${round}, writer ${writer}`, done: false }
      sent.get(coupon).push(note)
      try {
        await call('PUT', `/api/coupons/${coupon}/events/${note.id}`, { kind: 'breach', body: { rule: 'help', note: note.text } })
        note.done = true
        acknowledged++
      } catch (error) {
        if (error.refused) throw error
        cut++
        return
      }
    }
  })
  await new Promise((done) => setTimeout(done, 40 + Math.random() * 160))
  await server.kill('SIGKILL')
  stop = true
  await Promise.all(writers)
  await server.start()

  // What was cut off is sent again, as the browser's outbox does.
  for (const [coupon, notes] of sent) {
    for (const note of notes.filter((one) => !one.done)) {
      await call('PUT', `/api/coupons/${coupon}/events/${note.id}`, { kind: 'breach', body: { rule: 'help', note: note.text } })
      note.done = true
    }
  }
}

let [lost, doubled] = [0, 0]
for (const [coupon, notes] of sent) {
  const { life } = await (await call('GET', `/api/coupons/${coupon}`)).json()
  const kept = life.events.map((one) => one.id)
  lost += notes.filter((note) => !kept.includes(note.id)).length
  doubled += kept.length - new Set(kept).size + kept.filter((id) => !notes.some((note) => note.id === id)).length
}
await server.kill('SIGTERM')
console.log(`${ROUNDS} kills, ${acknowledged} acknowledged writes, ${cut} cut off and sent again: ${lost} lost, ${doubled} doubled`)
process.exit(lost + doubled === 0 ? 0 : 1)
