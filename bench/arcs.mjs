// Fifty arc loggers at fifty measurements a second into the demo school: what the server takes of a core and of memory, what it has forgotten of
// what it acknowledged after it was killed while they send, and how long a trace of twenty minutes takes to be drawn. Prints a table; fails when
// something that was acknowledged is lost. Needs a built server and simulator (./gradus arcs builds them).
import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { cpus, tmpdir } from 'node:os'
import { join } from 'node:path'
import { performance } from 'node:perf_hooks'
import { chromium as browsers } from '../tests/e2e/node_modules/@playwright/test/index.mjs'
import { chromium } from '../tests/e2e/chromium.mjs'
import { Server } from '../tests/e2e/server.mjs'

const BOOTHS = Number(process.env.BOOTHS ?? 50)
const SECONDS = Number(process.env.SECONDS ?? 90)
const HZ = 50
const TICKS_PER_SECOND = 100 // of /proc
const wait = (ms) => new Promise((done) => setTimeout(done, ms))

const server = new Server()
await server.start()
let cookie = ''
async function call(method, path, body) {
  const answer = await fetch(server.url + path, {
    method,
    headers: { cookie, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
    body: body === undefined ? undefined : JSON.stringify(body),
  })
  if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${await answer.text()}`)
  cookie = answer.headers.getSetCookie?.()[0]?.split(';')[0] || cookie
  return answer.json()
}
async function signIn() {
  const { instructors, demoPin } = await call('GET', '/api/session')
  await call('POST', '/api/session', { instructorId: instructors.find((one) => one.role === 'lead').id, pin: demoPin })
}
await signIn()
const pair = async (boothId, name) =>
  (await call('PUT', `/api/devices/${crypto.randomUUID()}`, { kind: 'arcLogger', name, boothId })).key

const { booths, students } = await call('GET', '/api/floor')
const ids = booths.map((booth) => booth.id)
for (let number = Math.max(...booths.map((booth) => booth.number)) + 1; ids.length < BOOTHS + 1; number++) {
  const id = crypto.randomUUID()
  await call('PUT', `/api/booths/${id}`, {
    processes: ['SMAW'],
    pipe: true,
    purge: false,
    extraction: true,
    positioner: false,
    column: number % 8,
    row: 4 + Math.floor(number / 8),
  })
  ids.push(id)
}
const open = students.find((one) => one.open?.booth)?.open
const mine = booths.find((booth) => booth.number === open.booth).id
const keys = []
for (const [at, id] of ids.filter((id) => id !== mine).slice(0, BOOTHS).entries()) keys.push(await pair(id, `Logger ${at + 1}`))
const file = join(mkdtempSync(join(tmpdir(), 'gradus-arcs-')), 'keys')
writeFileSync(file, keys.join('\n'))

const sim = spawn(
  'dotnet',
  [process.env.GRADUS_SIM, 'booths', '--url', server.url, '--keys', file, '--hz', String(HZ), '--seconds', String(SECONDS)],
  { stdio: ['ignore', 'pipe', 'inherit'] },
)
let said = ''
sim.stdout.on('data', (chunk) => (said += chunk))
const ended = new Promise((done) => sim.on('exit', done))

const used = () => {
  const of = readFileSync(`/proc/${server.process.pid}/stat`, 'utf8').split(') ')[1].split(' ')
  return (Number(of[11]) + Number(of[12])) / TICKS_PER_SECOND
}
const memory = () => Number(readFileSync(`/proc/${server.process.pid}/status`, 'utf8').match(/VmRSS:\s+(\d+)/)[1]) / 1024
await wait(15_000) // what is compiled first is not what it takes
const [from, began] = [used(), performance.now()]
await wait(30_000)
const share = (used() - from) / ((performance.now() - began) / 1000)
const before = memory()
await server.kill('SIGKILL')
await wait(2000)
await server.start()
const code = await ended
const after = memory()
const counts = JSON.parse(said.trim().split('\n').at(-1))

// A trace of twenty minutes: sent as fast as it is taken, a second after the other, as by a logger that was out of reach.
await signIn()
const key = await pair(mine, 'Logger')
const start = Date.now() - 1300_000
for (let second = 0; second < 1240; second++) {
  const arc = second > 3 && second < 1204
  const at = new Date(start + second * 1000).toISOString()
  const column = (value, swing) => Array.from({ length: HZ }, (_, step) => (arc ? value + swing * Math.sin((second * HZ + step) / 7) : 0))
  const put = fetch(`${server.url}/api/arc/batches/${second + 1}`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json', 'Gradus-Key': key },
    body: JSON.stringify({ at, sentAt: new Date().toISOString(), hz: HZ, amps: column(170, 6), volts: column(17.5, 1) }),
  })
  if (second % 40 === 39) await put
}
await wait(1500)
const coupon = await call('GET', `/api/coupons/${open.id}`)
const card = coupon.cards[coupon.next.card]
await call('PUT', `/api/coupons/${open.id}/passes/${crypto.randomUUID()}`, {
  beadKey: coupon.next.beadKey, process: card.process, electrodeClass: card.electrodeClass, diameterMm: card.diameterMm, polarity: card.polarity,
  amps: card.amps, volts: card.volts, wireFeedMmPerMin: card.wireFeedMmPerMin, gas: card.gas, technique: card.technique, progression: card.progression, hand: card.hand,
})
let trace = null
for (let tries = 0; tries < 60 && !trace; tries++) {
  trace = (await call('GET', `/api/coupons/${open.id}/arcs`)).beads.flatMap((bead) => bead.traces).find((one) => one.seconds > 1100)
  await wait(500)
}
const browser = await browsers.launch(chromium)
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await page.goto(server.url)
await page.evaluate(async () => {
  const { instructors, demoPin } = await (await fetch('/api/session')).json()
  await fetch('/api/session', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ instructorId: instructors.find((one) => one.role === 'lead').id, pin: demoPin }),
  })
})
const drawn = []
for (let time = 0; time < 7; time++) {
  await page.goto(`${server.url}/coupons/${open.id}`)
  await page.getByRole('button', { name: /^Fit-up/ }).or(page.getByRole('tab', { name: /^Fit-up/ })).first().waitFor()
  // From the answer being asked for until the strip has its line.
  drawn.push(
    await page.evaluate(
      ([stage]) =>
        new Promise((done) => {
          const asked = () => performance.getEntriesByType('resource').find((one) => one.name.includes('/points'))
          const look = () => {
            const line = document.querySelector('section[aria-label="The arc"] svg path.volts')
            if (line && asked()) requestAnimationFrame(() => done(performance.now() - asked().startTime))
            else requestAnimationFrame(look)
          }
          ;[...document.querySelectorAll('button, a')].find((one) => one.textContent.trim().startsWith(stage))?.click()
          look()
        }),
      [{ root: 'Root', hot: 'Hot', fill: 'Fill', cap: 'Cap' }[coupon.next.stage]],
    ),
  )
}
await browser.close()
drawn.sort((a, b) => a - b)
await server.kill('SIGTERM')

console.log(`${cpus()[0].model}, ${cpus().length} of them; ${BOOTHS} loggers, ${HZ} measurements a second, ${SECONDS} s\n`)
console.log('| what | measured | bar |\n|---|---|---|')
console.log(`| of one core | ${(share * 100).toFixed(0)} % | under 25 % |`)
console.log(`| memory before the kill, at the end | ${before.toFixed(0)} MB, ${after.toFixed(0)} MB | bounded |`)
console.log(`| acknowledged | ${counts.acknowledged} | |`)
console.log(`| of those forgotten after a kill | ${counts.forgotten} | 0 |`)
console.log(`| refused, dropped, still waiting | ${counts.refused}, ${counts.dropped}, ${counts.waiting} | 0 |`)
console.log(
  `| ${trace ? Math.round(trace.seconds / 60) : '?'} minutes drawn, from asking to the line | median ${drawn[3].toFixed(0)} ms, most ${drawn[6].toFixed(0)} ms | under 200 ms |`,
)
process.exit(code === 0 && trace ? 0 : 1)
