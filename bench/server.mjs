// Measures the server on the demo school with 100 000 more coupons in its file, by one client on loopback. Prints a table; asserts nothing.
import { performance } from 'node:perf_hooks'
import { randomBytes } from 'node:crypto'
import { execFileSync } from 'node:child_process'
import { cpus } from 'node:os'
import { readFileSync } from 'node:fs'
import { Server } from '../tests/e2e/server.mjs'

const RUNS = 200
const server = new Server()
await server.start()
await server.kill('SIGTERM')
const fill = (how) => console.log(execFileSync('dotnet', [process.env.GRADUS_BENCH, how, `${server.data}/demo.db`], { encoding: 'utf8' }).trim())
fill('enrol')
const began = performance.now()
await server.start()
const ready = performance.now() - began

const newId = () => {
  const bytes = randomBytes(16)
  bytes.writeUIntBE(Date.now(), 0, 6)
  bytes[6] = 0x70 | (bytes[6] & 0x0f)
  bytes[8] = 0x80 | (bytes[8] & 0x3f)
  const hex = bytes.toString('hex')
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join('-')
}
let cookie = ''
async function call(method, path, body) {
  const answer = await fetch(server.url + path, {
    method,
    headers: { cookie, ...(body ? { 'content-type': 'application/json' } : {}) },
    body: body && JSON.stringify(body),
  })
  if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${await answer.text()}`)
  cookie = answer.headers.getSetCookie?.()[0]?.split(';')[0] || cookie
  return answer.status === 204 ? null : answer.json()
}
async function timed(action, runs = RUNS) {
  const times = []
  for (let run = 0; run < runs; run++) {
    const start = performance.now()
    await action(run)
    times.push(performance.now() - start)
  }
  times.sort((a, b) => a - b)
  return (share) => times[Math.min(times.length - 1, Math.floor(share * times.length))]
}

async function signIn() {
  const { instructors } = await call('GET', '/api/session')
  await call('POST', '/api/session', { instructorId: instructors[0].id, pin: '2468' })
}

// 60 students on eight tests each, from nothing; what follows is measured with 100 000 coupons more.
await signIn()
const fromNothing = performance.now()
const board = await call('GET', '/api/ready?all=true')
const atOnce = performance.now() - fromNothing
for (let old = board.areOld; old; old = (await call('GET', '/api/ready?all=true')).areOld) await new Promise((done) => setTimeout(done, 1000))
const worked = performance.now() - fromNothing
await server.kill('SIGTERM')
fill('multiply')
await server.start()
await signIn()
for (let old = true; old; old = (await call('GET', '/api/ready?all=true')).areOld) await new Promise((done) => setTimeout(done, 1000))
const floor = await call('GET', '/api/floor')
const { instructors: people } = await call('GET', '/api/session')
const signing = await timed(() => call('POST', '/api/session', { instructorId: people[0].id, pin: '2468' }), 40)
const student = floor.students.find((one) => one.name === 'Dev Pillai')
const coupon = student.open.id
const pass = (beadKey) => ({
  beadKey, process: 'smaw', electrodeClass: 'E7018', diameterMm: 3.175, polarity: 'dcep', amps: 115, technique: 'stringer', progression: 'uphill', hand: 'left',
})

const memory = () => Number(readFileSync(`/proc/${server.process.pid}/status`, 'utf8').match(/VmRSS:\s+(\d+)/)[1]) / 1024

const rows = []
const measure = async (name, bar, action, runs) => {
  const at = await timed(action, runs)
  rows.push({ what: name, 'p50 ms': at(0.5).toFixed(1), 'p95 ms': at(0.95).toFixed(1), 'max ms': at(1).toFixed(1), 'bar, p95 ms': bar })
}
rows.push({ what: 'sign in', 'p50 ms': signing(0.5).toFixed(1), 'p95 ms': signing(0.95).toFixed(1), 'max ms': signing(1).toFixed(1), 'bar, p95 ms': 300 })
await measure('who is signed in', '', () => call('GET', '/api/classes'))
await measure('coupon page', 30, () => call('GET', `/api/coupons/${coupon}`))
await measure('ready board', 100, () => call('GET', '/api/ready'))
await measure('ready board, every test', '', () => call('GET', '/api/ready?all=true'), 40)
await measure('decision', '', () => call('GET', `/api/students/${student.id}/tests/R3/grounds`), 60)
await measure('student page', '', () => call('GET', `/api/students/${student.id}`))
await measure('floor', 60, () => call('GET', '/api/floor'), 100)
await measure('health', 5, () => call('GET', '/api/health'))
const key = student.open.next.beadKey
let saved = null
const saving = []
await timed(async () => {
  if (saved) await call('DELETE', `/api/coupons/${coupon}/passes/${saved}`)
  saved = newId()
  const start = performance.now()
  await call('PUT', `/api/coupons/${coupon}/passes/${saved}`, pass(key))
  saving.push(performance.now() - start)
})
saving.sort((a, b) => a - b)
const at = (share) => saving[Math.min(saving.length - 1, Math.floor(share * saving.length))].toFixed(1)
rows.push({ what: 'save a pass', 'p50 ms': at(0.5), 'p95 ms': at(0.95), 'max ms': at(1), 'bar, p95 ms': 25 })

console.log(`\n${new Date().toISOString().slice(0, 10)}, ${cpus().length} cores, Node ${process.version}`)
console.log(`Ready after ${Math.round(ready)} ms on an existing demo database (bar: 2000 ms)`)
console.log(`${board.rows.length} rows on the ready board of every test; the first answer, as kept last: ${Math.round(atOnce)} ms; all of them worked out and kept, in the background: ${(worked / 1000).toFixed(1)} s (bar: 6 s)`)
console.log(`Memory of the server at the end: ${Math.round(memory())} MB (bar: 300 MB)`)
console.table(rows)
await server.kill('SIGTERM')
console.log('The same rows by plain SQL on one open connection, ms (what, p50, p95):')
console.log(execFileSync('dotnet', [process.env.GRADUS_BENCH, 'raw', `${server.data}/demo.db`, coupon], { encoding: 'utf8' }).trim())
