// Fifty screens follow the floor while 200 changes a minute are written: none may be missed, and the server may use a tenth of a core.
import { readFileSync } from 'node:fs'
import { Server } from '../tests/e2e/server.mjs'

const SCREENS = 50
const PER_MINUTE = 200
const TICKS_PER_SECOND = 100 // of /proc, as Linux has it

const server = await new Server().start()
process.on('uncaughtException', (error) => {
  console.error(error.message)
  server.process.kill('SIGKILL')
  process.exit(1)
})
const base = server.url
const { instructors } = await (await fetch(`${base}/api/session`)).json()
const signed = await fetch(`${base}/api/session`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ instructorId: instructors[0].id, pin: '2468' }),
})
const headers = { cookie: signed.headers.getSetCookie()[0].split(';')[0], 'content-type': 'application/json' }
const json = async (path) => (await fetch(base + path, { headers })).json()
const cpu = () => {
  const fields = readFileSync(`/proc/${server.process.pid}/stat`, 'utf8').split(') ')[1].split(' ')
  return (Number(fields[11]) + Number(fields[12])) / TICKS_PER_SECOND
}

// Each screen notes when it was told that the findings of a coupon changed: the first time, the second time ...
const told = Array.from({ length: SCREENS }, () => ({ at: new Map(), last: new Map(), times: new Map() }))
async function follow(seen) {
  const response = await fetch(`${base}/api/floor/events`, { headers, signal: leave.signal })
  let rest = ''
  for await (const chunk of response.body.pipeThrough(new TextDecoderStream())) {
    const lines = (rest + chunk).split('\n')
    rest = lines.pop()
    for (const line of lines.filter((one) => one.startsWith('data:'))) {
      for (const { open } of JSON.parse(line.slice(5)).students ?? []) {
        if (!open || seen.last.get(open.id) === open.findings) continue
        const times = (seen.times.get(open.id) ?? 0) + 1
        seen.last.set(open.id, open.findings)
        seen.times.set(open.id, times)
        seen.at.set(`${open.id} ${times}`, performance.now())
      }
    }
  }
}

const open = (await json('/api/floor')).students.filter((student) => student.open?.testId.startsWith('P')).map((student) => student.open)
const placed = new Map() // by coupon the finding that is to be taken back next
async function change(coupon) {
  const known = placed.get(coupon.id)
  const id = known ?? crypto.randomUUID()
  const body = known ? undefined : JSON.stringify({ kind: 'undercut', stage: 'cap', fromStartMm: 20, depthMm: 0.1 })
  const answer = await fetch(`${base}/api/coupons/${coupon.id}/findings/${id}`, { method: known ? 'DELETE' : 'PUT', headers, body })
  if (!answer.ok) throw new Error(`${answer.status} ${await answer.text()}`)
  if (known) placed.delete(coupon.id)
  else placed.set(coupon.id, id)
}

// The share of a core that a minute of changes takes.
async function minute(written) {
  const from = { cpu: cpu(), at: performance.now() }
  for (let index = 0; index < PER_MINUTE; index++) {
    const coupon = open[index % open.length]
    const started = performance.now()
    await change(coupon)
    written?.push({ id: coupon.id, at: performance.now() })
    await new Promise((done) => setTimeout(done, Math.max(0, 60_000 / PER_MINUTE - (performance.now() - started))))
  }
  return (cpu() - from.cpu) / ((performance.now() - from.at) / 1000)
}

const pause = (milliseconds) => new Promise((done) => setTimeout(done, milliseconds))
const leave = new AbortController()
for (const seen of told) void follow(seen).catch(() => {})
await pause(2000)

// What is compiled while it runs for the first time is not what a day on the floor costs: as many changes at once, then a minute that does
// not count. Even numbers, so that each finding is taken back again.
for (let index = 0; index < 100 * open.length; index++) await change(open[index % open.length])
await minute()
for (let index = 0; index < open.length; index++) if (placed.has(open[index].id)) await change(open[index])
await pause(5000)
for (const seen of told) {
  seen.times.clear()
  seen.at.clear()
}
const written = []
const both = await minute(written)
await pause(2000)
leave.abort()
await pause(2000)
const writing = await minute()
const nth = new Map()
for (const one of written) {
  nth.set(one.id, (nth.get(one.id) ?? 0) + 1)
  one.key = `${one.id} ${nth.get(one.id)}`
}
const missed = told.reduce((sum, seen) => sum + written.filter((one) => !seen.at.has(one.key)).length, 0)
const late = told.flatMap((seen) => written.filter((one) => seen.at.has(one.key)).map((one) => Math.max(0, seen.at.get(one.key) - one.at))).sort((a, b) => a - b)
console.log(
  `${written.length} changes to ${SCREENS} screens: ${missed} missed; shown after ${late[Math.floor(late.length * 0.5)].toFixed(0)} ms in the middle, ${late[Math.floor(late.length * 0.99)].toFixed(0)} ms at the 99th percentile (bar 1000); the writing alone takes ${(100 * writing).toFixed(1)} % of a core, with the screens ${(100 * both).toFixed(1)} %: the feed ${(100 * (both - writing)).toFixed(1)} % (bar 10)`,
)
await server.kill()
process.exit(missed === 0 ? 0 : 1)
