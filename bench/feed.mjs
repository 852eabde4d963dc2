// Fifty screens follow the floor while 200 changes a minute are written: none may be missed, and the server may use a tenth of a core.
import { readFileSync } from 'node:fs'
import { Server } from '../tests/e2e/server.mjs'

const SCREENS = 50
const PER_MINUTE = 200
const SECONDS = 60
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

// Each screen notes when it was told that a coupon had so many findings.
const told = Array.from({ length: SCREENS }, () => new Map())
async function follow(seen) {
  const response = await fetch(`${base}/api/floor/events`, { headers })
  let rest = ''
  for await (const chunk of response.body.pipeThrough(new TextDecoderStream())) {
    const lines = (rest + chunk).split('\n')
    rest = lines.pop()
    for (const line of lines.filter((one) => one.startsWith('data:'))) {
      for (const student of JSON.parse(line.slice(5)).students ?? []) {
        const most = student.open?.findings ?? 0
        for (let count = 1; count <= most; count++) {
          const key = `${student.open.id} ${count}`
          if (!seen.has(key)) seen.set(key, performance.now())
        }
      }
    }
  }
}
for (const seen of told) void follow(seen).catch(() => {})

const open = (await json('/api/floor')).students.filter((student) => student.open?.testId.startsWith('P')).map((student) => student.open)
const counts = new Map(open.map((coupon) => [coupon.id, coupon.findings]))
const write = async (coupon, depth) => {
  const id = crypto.randomUUID()
  const body = { kind: 'undercut', stage: 'cap', fromStartMm: 20, depthMm: depth }
  const answer = await fetch(`${base}/api/coupons/${coupon.id}/findings/${id}`, { method: 'PUT', headers, body: JSON.stringify(body) })
  if (!answer.ok) throw new Error(`${answer.status} ${await answer.text()}`)
}

// What is compiled the first time is not what a day on the floor costs.
for (let index = 0; index < 200; index++) {
  await write(open[index % open.length], 0.1)
  counts.set(open[index % open.length].id, counts.get(open[index % open.length].id) + 1)
}
await new Promise((done) => setTimeout(done, 3000))

const written = []
const from = { cpu: cpu(), at: performance.now() }
for (let index = 0; index < (PER_MINUTE * SECONDS) / 60; index++) {
  const coupon = open[index % open.length]
  const started = performance.now()
  await write(coupon, 0.1)
  counts.set(coupon.id, counts.get(coupon.id) + 1)
  written.push({ key: `${coupon.id} ${counts.get(coupon.id)}`, at: performance.now() })
  await new Promise((done) => setTimeout(done, Math.max(0, 60_000 / PER_MINUTE - (performance.now() - started))))
}
const spent = (cpu() - from.cpu) / ((performance.now() - from.at) / 1000)
await new Promise((done) => setTimeout(done, 2000))
const missed = told.reduce((sum, seen) => sum + written.filter((one) => !seen.has(one.key)).length, 0)
const late = told.flatMap((seen) => written.filter((one) => seen.has(one.key)).map((one) => Math.max(0, seen.get(one.key) - one.at))).sort((a, b) => a - b)
console.log(
  `${written.length} changes to ${SCREENS} screens: ${missed} missed; shown after ${late[Math.floor(late.length * 0.5)].toFixed(0)} ms in the middle, ${late[Math.floor(late.length * 0.99)].toFixed(0)} ms at the 99th percentile (bar 1000); ${(100 * spent).toFixed(1)} % of a core (bar 10, the writing included)`,
)
await server.kill()
process.exit(missed === 0 ? 0 : 1)
