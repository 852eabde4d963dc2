import { expect, test } from '@playwright/test'
import { enter } from './pages'
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
  await page.evaluate(() => navigator.serviceWorker.ready)
  await expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller !== null)).toBe(true)
  await page.reload()
  // What the floor is worked with is read ahead while the page is at rest.
  await expect
    .poll(() => page.evaluate(async (path) => (await (await caches.open('gradus-read')).match(path)) !== undefined, `/api/coupons/${id}`), { timeout: 60_000 })
    .toBe(true)
  await expect
    .poll(() => page.evaluate(async (path) => (await (await caches.open('gradus-read')).match(path)) !== undefined, '/api/tests/R10'), { timeout: 60_000 })
    .toBe(true)

  await server.kill('SIGKILL')
  await context.setOffline(true)
  await page.reload()
  await expect(page.getByRole('heading', { name: 'Floor' })).toBeVisible()
  for (const [path, says] of [
    ['/ready', /The school asks/],
    ['/library/R1', /Would it cover my weld/],
    ['/plan', /Week of|Monday/],
    ['/shop', /Shop math/],
    [`/students/${student.id}`, /Ines Halvorsen/],
    [`/coupons/${id}`, /Ines Halvorsen/],
  ] as const) {
    await page.goto(server.url + path)
    await expect(page.getByText(says).first(), path).toBeVisible()
  }

  // Every bead that is left is laid, with a reload between, and a finding is put in.
  const before = (student.open.beadsLaid as number) + 0
  const left = (student.open.beadsPlanned as number) - before
  expect(left).toBeGreaterThan(2)
  const log = page.getByRole('button', { name: /^Log .* clean$/ })
  const seen = page.getByRole('button', { name: 'Seen, go on' })
  for (let laid = 0; laid < left; laid++) {
    if (laid === 2) await page.reload()
    await expect(log.or(seen).first()).toBeVisible()
    if (await seen.isVisible()) await seen.click()
    await log.click()
    await page.waitForTimeout(750) // a second tap within that is a double tap
  }
  await expect(page.getByText(/on this tablet/).first()).toBeVisible()

  await server.start()
  await context.setOffline(false)
  await expect(page.getByText('All saved')).toBeVisible({ timeout: 60_000 })
  const coupon = await (await page.request.get(`${server.url}/api/coupons/${id}`)).json()
  const passes = coupon.beads.flatMap((bead: { runs: unknown[] }) => bead.runs)
  expect(coupon.beads.filter((bead: { pass: unknown }) => bead.pass)).toHaveLength(before + left)
  expect(passes).toHaveLength(before + left)
  expect(new Set(passes.slice(before).map((one: { recordedBy: string }) => one.recordedBy)).size).toBe(1)
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
})
