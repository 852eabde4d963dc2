import { expect, test, type Page } from '@playwright/test'
import { enter, isAccessible } from './pages'
import { Server, simulated, simulating } from './server.mjs'

// Devices at the bench: an arc logger that sends by itself, a scanner and a gauge that are keyboards.
const server = new Server()
test.beforeAll(async () => void (await server.start()))
test.afterAll(() => server.kill())
test.describe.configure({ mode: 'serial' })

const HZ = 20
let key = ''

/** Somebody who welds in a booth, and whose next thing is a bead. */
async function welding(page: Page) {
  const { students } = await (await page.request.get(`${server.url}/api/floor`)).json()
  const one = students.find((student: { open: { booth: number; next: { kind: string } } | null }) => student.open?.booth && student.open.next.kind === 'pass')
  const coupon = await (await page.request.get(`${server.url}/api/coupons/${one.open.id}`)).json()
  return { id: one.open.id as string, stamp: one.open.stamp as string, booth: one.open.booth as number, coupon }
}

/** So many seconds of measurement that ended just now: an arc with a swing in its current, silence around it. */
async function weld(page: Page, seconds: number, quiet = 18) {
  const began = Date.now() - (seconds + quiet + 3) * 1000
  const first = Math.floor(began / 1000)
  for (let second = 0; second < seconds + quiet + 3; second++) {
    const arc = second >= 3 && second < seconds + 3
    const column = (value: number) => Array.from({ length: HZ }, () => (arc ? value : 0))
    const answer = await page.request.put(`${server.url}/api/arc/batches/${first + second}`, {
      headers: { 'Gradus-Key': key },
      data: { at: new Date(began + second * 1000), sentAt: new Date(), hz: HZ, amps: column(300), volts: column(19) },
    })
    expect(answer.status()).toBe(200)
  }
}

/** What a device types: its keys come as fast as it sends them, which a browser that is driven from outside does not keep up with. */
const device = (page: Page, kind: 'gauge' | 'scanner', reading: string) =>
  page.evaluate(
    (keys) => {
      const to = document.activeElement ?? document.body
      for (const key of keys) to.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }))
    },
    simulated(kind, '--reads', reading),
  )

test('a logger is paired, and its key is shown once', async ({ page }) => {
  await enter(server.url, page)
  const { booth } = await welding(page)
  await page.goto(`${server.url}/school?part=devices`)
  await page.getByRole('button', { name: 'Pair an arc logger' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Booth').selectOption({ label: `Booth ${booth}` })
  await dialog.getByLabel('Name').fill('Logger by the door, whose name is as long as anybody would write')
  await dialog.getByLabel('Lost in the leads').fill('9')
  await expect(dialog.getByRole('alert')).toContainText('From 0 to 5 V')
  await dialog.getByLabel('Lost in the leads').fill('0,5')
  await isAccessible(page)
  await dialog.getByRole('button', { name: 'Pair it' }).click()
  key = (await dialog.locator('.stamp').textContent())!.trim()
  expect(key).toMatch(/^[0-9a-f]{48}$/)
  await dialog.getByRole('button', { name: 'The logger has it' }).click()
  await expect(page.getByText('Nothing came from it yet')).toBeVisible()
  await expect.poll(async () => (await page.content()).includes(key)).toBe(false)
})

test('an arc is seen while it burns, and stands under its bead with its moments', async ({ page }) => {
  await enter(server.url, page)
  const { id, coupon } = await welding(page)
  await weld(page, 30)
  await page.goto(`${server.url}/coupons/${id}`)
  await expect(page.getByRole('region', { name: 'The arc right now' }).getByRole('img')).toBeVisible()
  const stage = coupon.next.stage as string
  const card = coupon.cards[coupon.next.card]
  const { process, electrodeClass, diameterMm, polarity, technique, progression, hand, amps } = card
  const pass = { beadKey: coupon.next.beadKey, process, electrodeClass, diameterMm, polarity, technique, progression, hand, amps }
  expect((await page.request.put(`${server.url}/api/coupons/${id}/passes/${crypto.randomUUID()}`, { data: pass })).ok()).toBe(true)
  await page.reload()
  await page.getByRole('button', { name: new RegExp(`^${stage}`, 'i') }).or(page.getByRole('tab', { name: new RegExp(`^${stage}`, 'i') })).first().click()
  await page.locator(`[data-bead="${coupon.next.beadKey}"]`).first().click()
  const arc = page.getByRole('region', { name: 'The arc', exact: true })
  await expect(arc.getByRole('img', { name: /Outside the card/ })).toBeVisible()
  await expect(arc.getByRole('listitem').first()).toContainText('Outside the card for')
  await arc.getByText('In numbers').click()
  await expect(arc.getByRole('row', { name: /Current 300 A/ })).toBeVisible()
  // The half volt of the leads is taken off.
  await expect(arc.getByRole('row', { name: /Volts 18\.5 V/ })).toBeVisible()
  const [measured] = await Promise.all([page.waitForEvent('download'), arc.getByRole('link', { name: 'The measurements' }).click()])
  expect(measured.suggestedFilename()).toMatch(/\.csv\.gz$/)
  for (const width of [1280, 820]) {
    await page.setViewportSize({ width, height: 1180 })
    await isAccessible(page)
    expect(await page.evaluate(() => document.documentElement.scrollWidth > window.innerWidth)).toBe(false)
  }
  await page.emulateMedia({ colorScheme: 'dark' })
  await isAccessible(page)
})

test('a scanned tag opens its coupon from anywhere, and no key of it does anything else', async ({ page }) => {
  await enter(server.url, page)
  const { id, stamp } = await welding(page)
  await page.goto(`${server.url}/learn`)
  await expect(page.getByRole('heading', { name: /Learn|What keeps going wrong/ }).first()).toBeVisible()
  // Its letters are shortcuts: it switches no units and opens no search.
  await device(page, 'scanner', `http://127.0.0.1:1/coupons/${id}`)
  await expect(page).toHaveURL(new RegExp(`/coupons/${id}$`))
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await page.goto(`${server.url}/ready`)
  await expect(page.getByText('The school asks').first()).toBeVisible()
  await device(page, 'scanner', stamp)
  await expect(page).toHaveURL(new RegExp(`/coupons/${id}$`))
  await device(page, 'scanner', 'AANNX')
  await expect(page.getByText('There is no coupon AANNX.')).toBeVisible()
  // A hand is slower, and its keys do what they do.
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog', { name: 'Keyboard' })).toBeVisible()
})

test('a gauge types into the field that waits', async ({ page }) => {
  await enter(server.url, page)
  await page.goto(`${server.url}/learn`)
  await expect(page.getByRole('heading', { name: /Learn|What keeps going wrong/ }).first()).toBeVisible()
  await device(page, 'gauge', '2.5mm')
  await expect(page.getByText('no field waits for it')).toBeVisible()
  const { id } = await welding(page)
  await page.goto(`${server.url}/coupons/${id}?finding`)
  await page.getByRole('button', { name: /^Porosity/ }).first().click()
  const field = page.getByLabel(/typed in/).first()
  await expect(field).toBeVisible()
  const label = (await field.getAttribute('aria-label'))!.split(',')[0]!
  await page.locator('h1, h2').first().click()
  await device(page, 'gauge', '0.79375mm')
  await expect(page.getByText(`${label}: 0.79375mm from the gauge.`)).toBeVisible()
  await expect(page.getByRole('group', { name: label }).getByRole('button', { pressed: true })).toHaveAccessibleName(/1\/32/)
})

test('specimens are given to a laboratory, and what it saw is taken over', async ({ page }) => {
  await enter(server.url, page)
  await page.goto(`${server.url}/school?part=devices`)
  await page.getByRole('button', { name: 'Pair a laboratory' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Name').fill('Test bay')
  await dialog.getByRole('button', { name: 'Pair it' }).click()
  const labKey = (await dialog.locator('.stamp').textContent())!.trim()
  await dialog.getByRole('button', { name: 'The laboratory has it' }).click()
  await expect(page.getByRole('region', { name: 'Laboratories' }).getByText('Test bay')).toBeVisible()

  const { students } = await (await page.request.get(`${server.url}/api/floor`)).json()
  const one = await uncut(page, students)
  await page.goto(`${server.url}/coupons/${one.id}`)
  const lab = page.getByRole('region', { name: 'Laboratory' })
  await lab.getByRole('button', { name: 'Give specimens to a laboratory' }).click()
  await expect(lab.getByRole('button', { name: `${one.stamp}-1` })).toHaveAttribute('aria-pressed', 'true')
  await isAccessible(page)
  await lab.getByRole('button', { name: /^Give these \d to Test bay/ }).click()
  await expect(lab.getByText('It has not said yet that they arrived.')).toBeVisible()
  const bay = simulating('lab', '--url', server.url, '--key', labKey, '--after', '1', '--patience', '5')
  try {
    // Told by the server: the page is not loaded anew.
    await expect(lab.getByRole('button', { name: 'Take it over' })).toBeVisible({ timeout: 30_000 })
    await expect(lab.getByRole('link', { name: `report-${one.stamp}.pdf` })).toBeVisible()
    await isAccessible(page)
    const specimens = page.getByRole('region', { name: 'Specimens' })
    await expect(specimens.getByRole('button', { name: /^(face|root|side).*(Accept|Reject)/ })).toHaveCount(0)
    const due = page.getByRole('region', { name: 'Back from a laboratory' })
    await page.goto(server.url)
    await due.getByRole('link', { name: new RegExp(one.stamp) }).click()
    await lab.getByRole('button', { name: 'Take it over' }).click()
    await expect(specimens.getByRole('button', { name: /^(face|root|side).*(Accept|Reject)/ }).first()).toBeVisible()
    await expect(lab.getByText('Taken over from Test bay')).toBeVisible()
    await page.goto(server.url)
    await expect(page.getByRole('heading', { name: 'Floor' })).toBeVisible()
    await expect(due).toHaveCount(0)
  } finally {
    bay.kill()
  }
})

/** A closed full coupon whose specimens nobody has tested. */
async function uncut(page: Page, students: { id: string }[]) {
  for (const student of students) {
    const { coupons } = await (await page.request.get(`${server.url}/api/students/${student.id}`)).json()
    for (const row of coupons.rows) {
      const coupon = await (await page.request.get(`${server.url}/api/coupons/${row.id}`)).json()
      const bent = coupon.test.specimens.every((it: { kind: string }) => ['face', 'root', 'side'].includes(it.kind))
      if (coupon.closedAt && !coupon.drillId && bent && coupon.test.specimens.length && !coupon.life.specimens.length) return coupon
    }
  }
  throw new Error('There is none.')
}
