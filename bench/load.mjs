// A school's day in ten minutes: 120 students on 20 tablets, each of which follows the floor, lays beads, looks, closes and reads what an instructor
// reads between. From a process of its own; then every entry that was acknowledged is looked for. Prints a table; fails when one is lost or doubled.
import { spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { cpus } from 'node:os'
import { fileURLToPath } from 'node:url'
import { Server } from '../tests/e2e/server.mjs'

const STUDENTS = 120
const TABLETS = 20
const MINUTES = Number(process.env.MINUTES ?? 10)
const COUPONS_A_DAY = 2 // of each student, in a day of six hours
const TICKS_PER_SECOND = 100 // of /proc, as Linux has it
const PICTURE = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAgAAAAICAIAAABLbSncAAAAEklEQVR4nGP4z8CAFWEXHbQSACj/P8Fu7N9hAAAAAElFTkSuQmCC',
  'base64',
)
const TESTS = ['P8', 'R1', 'R3', 'P2']

if (process.argv[2] === 'tablets') await tablets(process.argv[3])
else await school()

async function school() {
  const server = await new Server({ demo: false }).start()
  process.on('uncaughtException', (error) => {
    console.error(error.message)
    server.process.kill('SIGKILL')
    process.exit(1)
  })
  const memory = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.process.pid}/status`, 'utf8'))[1]) / 1024
  const cpu = () => {
    const fields = readFileSync(`/proc/${server.process.pid}/stat`, 'utf8').split(') ')[1].split(' ')
    return (Number(fields[11]) + Number(fields[12])) / TICKS_PER_SECOND
  }
  let most = 0
  const watching = setInterval(() => (most = Math.max(most, memory())), 500)
  const [began, spent] = [performance.now(), cpu()]
  const child = spawn(process.execPath, [fileURLToPath(import.meta.url), 'tablets', server.url], { stdio: ['ignore', 'inherit', 'inherit'] })
  const code = await new Promise((done) => child.once('exit', done))
  clearInterval(watching)
  const minutes = (performance.now() - began) / 60_000
  console.log(
    `\n${minutes.toFixed(1)} min, ${cpus().length} cores: the server took ${(((cpu() - spent) / minutes / 60) * 100).toFixed(0)} % of one, and held at most ${most.toFixed(0)} MB (${memory().toFixed(0)} at the end).`,
  )
  await server.kill('SIGTERM')
  process.exit(code)
}

async function tablets(url) {
  const times = new Map()
  const kept = new Map() // by coupon the ids that were acknowledged
  let refused = 0

  async function call(cookie, method, path, body, type = 'application/json') {
    const response = await fetch(url + path, {
      method,
      headers: { ...(body === undefined ? {} : { 'content-type': type }), cookie, 'gradus-pin': '4711' },
      body: body === undefined ? undefined : Buffer.isBuffer(body) ? body : JSON.stringify(body),
    })
    const text = await response.text()
    if (!response.ok) throw Object.assign(new Error(`${method} ${path}: ${response.status} ${text}`), { status: response.status })
    return { json: () => JSON.parse(text), cookie: response.headers.getSetCookie?.()[0]?.split(';')[0] }
  }

  async function act(name, ...asked) {
    const began = performance.now()
    try {
      const answer = await call(...asked)
      times.set(name, [...(times.get(name) ?? []), performance.now() - began])
      return answer
    } catch (error) {
      if (!error.status) throw error
      refused++
      console.error(error.message.slice(0, 300))
      return null
    }
  }

  // The school: a lead, twenty booths and a hundred and twenty students in six classes.
  const setup = { schoolName: 'A full school', timeZone: 'Europe/Oslo', instructorName: 'Lead', pin: '4711', booths: TABLETS }
  await call('', 'POST', '/api/setup', setup)
  const { instructors } = (await call('', 'GET', '/api/session')).json()
  const signIn = async () => (await call('', 'POST', '/api/session', { instructorId: instructors[0].id, pin: '4711' })).cookie
  const lead = await signIn()
  const classes = []
  for (const day of ['Morning', 'Evening']) {
    const id = crypto.randomUUID()
    await call(lead, 'PUT', `/api/classes/${id}`, { name: day, meetsOn: ['monday', 'tuesday', 'wednesday', 'thursday', 'friday'], termEnds: null })
    classes.push(id)
  }
  const students = []
  for (let at = 0; at < STUDENTS; at++) {
    const id = crypto.randomUUID()
    await call(lead, 'PUT', `/api/students/${id}`, {
      name: `Student ${String(at + 1).padStart(3, '0')}`,
      classGroupId: classes[at % classes.length],
      hand: at % 9 === 0 ? 'left' : 'right',
      targetTestId: TESTS[at % TESTS.length],
      evenIfAlike: true,
      note: null,
    })
    students.push({ id, testId: TESTS[at % TESTS.length] })
  }

  const until = performance.now() + MINUTES * 60_000
  const wait = (ms) => new Promise((done) => setTimeout(done, ms))
  const leave = new AbortController()
  let told = 0

  async function follow(cookie) {
    try {
      const response = await fetch(`${url}/api/floor/events`, { headers: { cookie }, signal: leave.signal })
      for await (const chunk of response.body) if (chunk.length > 0) told++
    } catch (error) {
      if (!leave.signal.aborted) throw error
    }
  }

  async function coupon(cookie, { id: studentId, testId }, pause) {
    const couponId = crypto.randomUUID()
    if (!(await act('begin a coupon', cookie, 'PUT', `/api/coupons/${couponId}`, { studentId, testId, drillId: null, variants: {}, boothId: null, asTest: false }))) return
    kept.set(couponId, new Set())
    const path = `/api/coupons/${couponId}`
    const view = (await act("coupon page's data", cookie, 'GET', path)).json()
    const isPipe = testId.startsWith('R')
    let count = 0
    for (const bead of view.beads) {
      const id = crypto.randomUUID()
      const pass = {
        beadKey: bead.key,
        process: 'SMAW',
        electrodeClass: 'E7018',
        diameterMm: 3.2,
        polarity: 'dcep',
        amps: 120,
        volts: null,
        wireFeedMmPerMin: null,
        gas: null,
        technique: 'stringer',
        progression: 'uphill',
        hand: 'right',
      }
      if (await act('log a pass', cookie, 'PUT', `${path}/passes/${id}`, pass)) kept.get(couponId).add(id)
      // A tap that was not heard is made once more.
      if (++count % 7 === 0) await act('the same pass again', cookie, 'PUT', `${path}/passes/${id}`, pass)
      if (count % 4 === 0) {
        const finding = crypto.randomUUID()
        const body = { passId: id, kind: 'undercut', stage: bead.stage, clock: isPipe ? '4:00' : null, fromStartMm: isPipe ? null : 20 + count, depthMm: 0.3, heightMm: null, lengthMm: 5, diameterMm: null, widthMm: null, count: null }
        if (await act('log a finding', cookie, 'PUT', `${path}/findings/${finding}`, body)) kept.get(couponId).add(finding)
        await act("coupon page's data", cookie, 'GET', path)
        await act('the coach', cookie, 'GET', `${path}/coach`)
      }
      await pause()
    }
    const photo = crypto.randomUUID()
    if (await act('a photo', cookie, 'PUT', `${path}/photos/${photo}`, PICTURE, 'image/png')) kept.get(couponId).add(photo)
    const note = crypto.randomUUID()
    if (await act('a note', cookie, 'PUT', `${path}/notes/${note}`, { text: 'Travel a little faster.' })) kept.get(couponId).add(note)
    await act('sign the verdict', cookie, 'PUT', `${path}/closings/${crypto.randomUUID()}`)
    await act("student page's data", cookie, 'GET', `/api/students/${studentId}`)
    await act('ready board', cookie, 'GET', '/api/ready')
    await act("floor's data", cookie, 'GET', '/api/floor')
  }

  async function tablet(number) {
    const cookie = await signIn()
    const following = follow(cookie)
    const mine = students.filter((_, at) => at % TABLETS === number)
    const steps = mine.length * COUPONS_A_DAY * 12 // about so many beads
    const pause = () => wait(((MINUTES * 60_000) / steps) * (0.4 + Math.random()))
    await wait(Math.random() * 3000)
    for (let round = 0; performance.now() < until; round++) {
      for (const student of mine) {
        if (performance.now() > until) break
        await coupon(cookie, student, pause)
      }
    }
    return following
  }

  const working = Array.from({ length: TABLETS }, (_, number) => tablet(number))
  const plan = (async () => {
    // Now and then the week is looked at and the whole class is asked for.
    while (performance.now() < until) {
      await wait(15_000)
      await act('class patterns', lead, 'GET', '/api/learn/class')
      await act('what is due', lead, 'GET', '/api/floor/due')
    }
  })()
  await wait(MINUTES * 60_000)
  await plan
  await wait(3000)
  leave.abort()
  await Promise.all(working)

  // Everything that was acknowledged is there, once.
  let [asked, lost, doubled] = [0, 0, 0]
  for (const [couponId, ids] of kept) {
    const text = JSON.stringify((await call(lead, 'GET', `/api/coupons/${couponId}`)).json())
    const history = JSON.stringify((await call(lead, 'GET', `/api/coupons/${couponId}/history`)).json())
    const view = JSON.parse(text)
    for (const id of ids) {
      asked++
      if (!text.includes(id) && !history.includes(id)) lost++
      const times = [...(view.passes ?? []), ...(view.findings ?? []), ...(view.notes ?? []), ...(view.photos ?? [])].filter((one) => one.id === id).length
      if (times > 1) doubled++
    }
  }

  console.log(`| act | times | p50 ms | p95 ms | most ms |\n|---|---|---|---|---|`)
  for (const [name, all] of [...times].sort((a, b) => b[1].length - a[1].length)) {
    all.sort((a, b) => a - b)
    const at = (share) => all[Math.min(all.length - 1, Math.floor(share * all.length))].toFixed(1)
    console.log(`| ${name} | ${all.length} | ${at(0.5)} | ${at(0.95)} | ${all.at(-1).toFixed(0)} |`)
  }
  console.log(`\n${kept.size} coupons, ${asked} entries acknowledged: ${lost} lost, ${doubled} doubled, ${refused} refused; the floor was told ${told} times.`)
  process.exitCode = lost + doubled + refused > 0 ? 1 : 0
}
