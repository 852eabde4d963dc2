import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { enter, isReadAhead, layBeads } from './pages'
import { Server } from './server.mjs'

// The page without a network, as a tablet has it on this machine or behind a certificate that it trusts.
test.use({ serviceWorkers: 'allow' })
const server = new Server()
test.beforeAll(async () => void (await server.start()))
test.afterAll(() => server.kill())

test('after one visit every screen opens without a network, a coupon goes to its look, and all of it is there once', async ({ page, context }) => {
  test.setTimeout(240_000)
  await enter(server.url, page)
  await page.goto(server.url)
  await expect(page.getByRole('heading', { name: 'Floor' })).toBeVisible()
  const { students } = await (await page.request.get(`${server.url}/api/floor`)).json()
  const student = students.find((one: { name: string }) => one.name === 'Ines Halvorsen')
  const id = student.open.id as string
  const openOf = (name: string) => students.find((one: { name: string }) => one.name === name).open.id as string
  const [fresh, plate] = [openOf('Tobias Okoro'), openOf('Priya Venn')]
  await page.evaluate(() => navigator.serviceWorker.ready)
  await expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller !== null)).toBe(true)
  await page.reload()
  // What the floor is worked with is read ahead while the page is at rest.
  await isReadAhead(page, `/api/coupons/${id}`)
  await isReadAhead(page, '/api/tests/R10')

  const before = await (await page.request.get(`${server.url}/api/coupons/${plate}`)).json()
  await server.kill('SIGKILL')
  await context.setOffline(true)
  await page.reload()
  await expect(page.getByRole('heading', { name: 'Floor' })).toBeVisible()
  for (const [path, says] of [
    ['/ready', /The school asks/],
    ['/library/R1', /What it qualifies/],
    ['/plan', /Week of|Monday/],
    ['/shop', /Shop math/],
    [`/students/${student.id}`, /Ines Halvorsen/],
    [`/coupons/${id}`, /Ines Halvorsen/],
  ] as const) {
    await page.goto(server.url + path)
    await expect(page.getByText(says).first(), path).toBeVisible()
  }

  // Every bead that is left is laid, with a reload between.
  const laidBefore = student.open.beadsLaid as number
  const left = (student.open.beadsPlanned as number) - laidBefore
  expect(left).toBeGreaterThan(2)
  await layBeads(page, left, true)
  await expect(page.getByText(/on this tablet/).first()).toBeVisible()

  // A fit-up, a timer, a finding, a photo and a note on others.
  await page.goto(`${server.url}/coupons/${fresh}`)
  await page.getByRole('button', { name: 'Rest as drawn everywhere' }).click()
  await page.getByRole('button', { name: '4 tacks' }).click()
  for (const yes of await page.getByRole('button', { name: /^Yes:/ }).all()) await yes.click()
  await page.getByRole('button', { name: 'Record the fit-up' }).click()
  await page.goto(`${server.url}/coupons/${plate}`)
  await page.getByText('Timers', { exact: true }).click()
  await page.getByRole('button', { name: 'Cool', exact: true }).click()
  await page.getByRole('button', { name: '5 min', exact: true }).click()
  await page.locator('[data-place="5"]').click()
  await page.getByRole('button', { name: 'Incomplete fusion' }).click()
  await page.getByRole('button', { name: 'Keep this finding' }).click()
  await page.getByRole('tab', { name: 'Look and close' }).click()
  const picture = await page.screenshot({ clip: { x: 0, y: 0, width: 200, height: 120 } })
  await page.getByLabel('Photo', { exact: true }).setInputFiles({ name: 'root.png', mimeType: 'image/png', buffer: picture })
  await page.getByLabel('Note', { exact: true }).fill('Wind from the gate')
  await page.getByRole('button', { name: 'Add', exact: true }).click()
  const waits = () =>
    page.evaluate(
      () =>
        new Promise<string[]>((done) => {
          const asked = indexedDB.open('gradus', 1)
          asked.onsuccess = () => {
            const all = asked.result.transaction('writes').objectStore('writes').getAll()
            all.onsuccess = () => done(all.result.map((one: { path: string }) => one.path.split('/')[4]!))
          }
        }),
    )
  await expect.poll(waits).toEqual(expect.arrayContaining(['passes', 'fit-ups', 'events', 'findings', 'photos', 'notes']))
  await page.reload()
  await expect(page.getByText(/Kept on this tablet, not yet on the server/)).toBeVisible()

  const lost = Date.now()
  await page.waitForTimeout(2500)
  await server.start()
  await context.setOffline(false)
  await expect(page.getByText('All saved')).toBeVisible({ timeout: 60_000 })
  const coupon = await (await page.request.get(`${server.url}/api/coupons/${id}`)).json()
  const passes = coupon.beads.flatMap((bead: { runs: unknown[] }) => bead.runs)
  expect(coupon.beads.filter((bead: { pass: unknown }) => bead.pass)).toHaveLength(laidBefore + left)
  expect(passes).toHaveLength(laidBefore + left)
  expect(new Set(passes.slice(laidBefore).map((one: { recordedBy: string }) => one.recordedBy)).size).toBe(1)
  const after = await (await page.request.get(`${server.url}/api/coupons/${plate}`)).json()
  expect((await (await page.request.get(`${server.url}/api/coupons/${fresh}`)).json()).fitUp.measured).not.toBeNull()
  expect(after.life.timers).toHaveLength(before.life.timers.length + 1)
  expect(after.findings.length).toBe(before.findings.length + 1)
  expect(after.photos.length).toBe(before.photos.length + 1)
  const note = after.notes.at(-1)
  expect(note.text).toBe('Wind from the gate')
  expect(note.recordedBy).toBe('Greta Lindqvist-Moe')
  expect(Date.parse(note.recordedAt)).toBeLessThan(lost)
})

test('a newer page says so, sends what waits, and takes over', async ({ page }) => {
  // The server with a copy of the interface that can be made newer.
  const root = mkdtempSync(join(tmpdir(), 'gradus-page-'))
  cpSync(join(import.meta.dirname, '../../src/Gradus.Server/wwwroot'), join(root, 'wwwroot'), { recursive: true })
  for (const packed of ['br', 'gz']) rmSync(join(root, `wwwroot/service-worker.js.${packed}`), { force: true })
  const own = new Server()
  await own.start(undefined, root)
  await enter(own.url, page)
  await page.goto(own.url)
  await page.evaluate(() => navigator.serviceWorker.ready)
  await expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller !== null)).toBe(true)
  await page.reload()
  await expect(page.getByRole('heading', { name: 'Floor' })).toBeVisible()
  await expect(page.getByText('A newer Gradus is here.')).toHaveCount(0)

  const worker = join(root, 'wwwroot/service-worker.js')
  writeFileSync(worker, `${readFileSync(worker, 'utf8')}\n// newer`)
  await page.evaluate(async () => void (await (await navigator.serviceWorker.ready).update()))
  await expect(page.getByText('A newer Gradus is here.')).toBeVisible()
  const reloaded = page.waitForEvent('load')
  await page.getByRole('button', { name: 'Take it' }).click()
  await reloaded
  await expect(page.getByRole('heading', { name: 'Floor' })).toBeVisible()
  await expect(page.getByText('A newer Gradus is here.')).toHaveCount(0)
  await own.kill()
})

test('it can be installed', async ({ page, context }) => {
  await enter(server.url, page)
  await page.goto(server.url)
  await page.evaluate(() => navigator.serviceWorker.ready)
  const devtools = await context.newCDPSession(page)
  const { installabilityErrors } = await devtools.send('Page.getInstallabilityErrors')
  // A private window installs nothing, whatever the page is.
  expect(installabilityErrors.map((one) => one.errorId).filter((id) => id !== 'in-incognito')).toEqual([])
})

test('whoever signs out takes along what was read', async ({ page }) => {
  await enter(server.url, page)
  await page.goto(server.url)
  await page.evaluate(() => navigator.serviceWorker.ready)
  await page.reload()
  await expect(page.getByRole('heading', { name: 'Floor' })).toBeVisible()
  await page.getByRole('button', { name: /^Greta Lindqvist-Moe/ }).click()
  await page.getByRole('button', { name: 'Sign out', exact: true }).click()
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible()
  const kept = await page.evaluate(async () => (await (await caches.open('gradus-read')).keys()).map((one) => new URL(one.url).pathname))
  expect(kept.filter((path) => path !== '/api/session')).toEqual([])

  // The same person again: it is read ahead anew, on the same page.
  await page.getByLabel('PIN').fill('2468')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await isReadAhead(page, '/api/finding-kinds')
})
