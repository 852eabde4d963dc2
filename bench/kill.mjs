// Kills the server with SIGKILL again and again while it is written to, backed up and migrated, with a full disk in the middle; then looks
// whether every write that was acknowledged is there, once, and in every archive that counts as verified and was begun after it.
// Prints what it found; fails when one is lost or doubled. Needs a built server (./gradus kills builds it).
import { execFileSync, spawn } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import { existsSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, statfsSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'
import { gunzipSync } from 'node:zlib'
import { Server } from '../tests/e2e/server.mjs'

const KILLS = Number(process.env.KILLS ?? 100)
const MIGRATING = Math.round(KILLS * 0.15)
const WRITING = KILLS - MIGRATING
const BACKUP_EACH = 8
const WRITERS = 4
const DISK_MB = 160
const OLD = join(dirname(fileURLToPath(import.meta.url)), '../tests/Gradus.Server.Tests/samples/demo-0.1.0.db.gz')
const DLL = resolve(process.env.GRADUS_SERVER)
const PICTURE = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAgAAAAICAIAAABLbSncAAAAEklEQVR4nGP4z8CAFWEXHbQSACj/P8Fu7N9hAAAAAElFTkSuQmCC',
  'base64',
)

const newId = () => {
  const bytes = randomBytes(16)
  bytes.writeUIntBE(Date.now(), 0, 6)
  bytes[6] = 0x70 | (bytes[6] & 0x0f)
  bytes[8] = 0x80 | (bytes[8] & 0x3f)
  const hex = bytes.toString('hex')
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join('-')
}
const wait = (ms) => new Promise((done) => setTimeout(done, ms))

// A disk of its own, so that it can be full: only who may mount has one; without it that part is left out, and said so.
const root = mkdtempSync(join(tmpdir(), 'gradus-kills-'))
const data = join(root, 'data')
mkdirSync(data)
let isOwnDisk = true
try {
  execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${DISK_MB}m`, 'tmpfs', data], { stdio: 'ignore' })
} catch {
  isOwnDisk = false
}

let cookie = ''
const call = async (server, method, path, body, type = 'application/json') => {
  const response = await fetch(server.url + path, {
    method,
    headers: { ...(body === undefined ? {} : { 'content-type': type }), cookie },
    body: body === undefined ? undefined : Buffer.isBuffer(body) ? body : JSON.stringify(body),
  })
  if (!response.ok)
    throw Object.assign(new Error(`${method} ${path}: ${response.status} ${await response.text()}`), { status: response.status })
  return response
}
async function signIn(server) {
  const { instructors } = await (await fetch(`${server.url}/api/session`)).json()
  cookie = ''
  const answer = await call(server, 'POST', '/api/session', { instructorId: instructors[0].id, pin: '2468' })
  cookie = answer.headers.getSetCookie()[0].split(';')[0]
}

const server = await new Server({ data }).start()
await signIn(server)
const floor = await (await call(server, 'GET', '/api/floor')).json()
const coupons = floor.students.filter((one) => one.open).map((one) => one.open.id)
const sent = [] // everything ever sent: where to, and since when it is acknowledged
const archives = [] // each with what was acknowledged before it began
let [acknowledged, cut, full, kills] = [0, 0, 0, 0]

const put = (one) =>
  one.photo
    ? call(server, 'PUT', `/api/coupons/${one.coupon}/photos/${one.id}`, PICTURE, 'image/png')
    : call(server, 'PUT', `/api/coupons/${one.coupon}/events/${one.id}`, { kind: 'breach', body: { rule: 'help', note: one.note } })

async function write(round, writer, isStopped) {
  for (let count = 0; !isStopped(); count++) {
    const one = {
      id: newId(),
      coupon: coupons[(round + writer) % coupons.length],
      photo: writer === 0 && count % 3 === 0 && round < 60,
      note: `round ${round}, writer ${writer}`,
      done: false,
    }
    sent.push(one)
    try {
      await put(one)
      one.done = true
      acknowledged++
    } catch (error) {
      if (error.status === 507) {
        full++
        await wait(20)
      } else if (error.status) throw error
      else {
        cut++
        return
      }
    }
  }
}

const backups = join(root, 'backups')
mkdirSync(backups)
function backUp() {
  const before = sent.filter((one) => one.done).map((one) => one.id)
  const known = new Set(readdirSync(backups))
  const child = spawn('dotnet', [DLL, 'backup', backups], {
    env: { ...process.env, GRADUS_DATA: data, GRADUS_DEMO: '1' },
    stdio: 'ignore',
  })
  const ended = new Promise((done) => child.once('exit', done)).then(() => {
    for (const name of readdirSync(backups).filter((one) => one.endsWith('.zip') && !known.has(one)))
      if (!archives.some((one) => one.name === name)) archives.push({ name, before })
  })
  return { child, ended }
}

for (let round = 1; round <= WRITING; round++) {
  let stop = false
  const isFull = isOwnDisk && round === Math.round(WRITING / 2)
  const filler = join(data, 'filler')
  if (isFull) {
    const { bavail, bsize } = statfsSync(data)
    writeFileSync(filler, Buffer.alloc(Math.max(0, bavail * bsize)))
  }
  const writers = Array.from({ length: WRITERS }, (_, writer) => write(round, writer, () => stop))
  const backup = round % BACKUP_EACH === 0 && !isFull ? backUp() : null
  await wait(isFull ? 3000 : backup ? 400 + Math.random() * 2500 : 40 + Math.random() * 160)
  if (backup && round % (2 * BACKUP_EACH) === 0) backup.child.kill('SIGKILL') // the backup itself is killed, too
  await server.kill('SIGKILL')
  kills++
  stop = true
  await Promise.all(writers)
  await backup?.ended
  if (isFull) rmSync(filler)
  await server.start()

  // What was cut off or found the disk full is sent again, as the browser's outbox does.
  for (const one of sent.filter((one) => !one.done)) {
    await put(one)
    one.done = true
  }
}

/** How many of the given records are not there, and how many are there twice. */
async function missing(at, wanted) {
  let [lost, doubled] = [0, 0]
  for (const coupon of coupons) {
    const { life, photos } = await (await call(at, 'GET', `/api/coupons/${coupon}`)).json()
    const kept = [...life.events.map((one) => one.id), ...photos.filter((one) => !one.missing).map((one) => one.id)]
    lost += wanted.filter((one) => one.coupon === coupon && !kept.includes(one.id)).length
    doubled += kept.length - new Set(kept).size
  }
  return [lost, doubled]
}

const [lost, doubled] = await missing(server, sent)
const stray = readdirSync(data, { recursive: true }).filter((name) => /\.(new|partial)/.test(name)).length
await server.kill('SIGTERM')

// Every archive that counts as verified holds what was acknowledged before it began.
let lacking = 0
for (const { name, before } of archives) {
  const folder = mkdtempSync(join(root, 'restored-'))
  execFileSync('dotnet', [DLL, 'restore', join(backups, name)], { env: { ...process.env, GRADUS_DATA: folder, GRADUS_DEMO: '1' } })
  const restored = await new Server({ data: folder }).start()
  await signIn(restored)
  const known = new Set(before)
  const [gone, twice] = await missing(restored, sent.filter((one) => known.has(one.id)))
  lacking += gone + twice
  await restored.kill('SIGTERM')
}

// A school of the release before is killed while it is brought up to date, and opens all the same.
let unopened = 0
for (let round = 0; round < MIGRATING; ) {
  const folder = mkdtempSync(join(root, 'old-'))
  writeFileSync(join(folder, 'demo.db'), gunzipSync(readFileSync(OLD)))
  for (let kill = 0; kill < 3 && round < MIGRATING; kill++, round++) {
    const child = spawn('dotnet', [DLL], {
      env: { ...process.env, GRADUS_DATA: folder, GRADUS_DEMO: '1', GRADUS_PORT: '0' },
      stdio: 'ignore',
    })
    const ended = new Promise((done) => child.once('exit', done))
    await wait(350 + Math.random() * 900)
    child.kill('SIGKILL')
    await ended
    kills++
  }
  const opened = await new Server({ data: folder }).start()
  await signIn(opened)
  const students = (await (await call(opened, 'GET', '/api/floor')).json()).students.length
  const copies = readdirSync(join(folder, 'backups')).length
  if (students !== 14 || copies < 1 || existsSync(join(folder, 'demo.db.partial'))) unopened++
  await opened.kill('SIGTERM')
}

if (isOwnDisk) execFileSync('umount', [data])
rmSync(root, { recursive: true, force: true })
console.log(
  `${kills} kills (${MIGRATING} while migrating), ${acknowledged} acknowledged writes, ${cut} cut off and sent again, ${
    isOwnDisk ? `${full} answered with a full disk and sent again` : 'no full disk: this user may not mount one'
  }: ${lost} lost, ${doubled} doubled, ${stray} stray files; ${archives.length} verified archives: ${lacking} acknowledged writes lacking; ${unopened} schools that did not open`,
)
process.exit(lost + doubled + stray + lacking + unopened === 0 ? 0 : 1)
