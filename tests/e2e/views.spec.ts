import { expect, test, type Page } from '@playwright/test'
import { gzipSync } from 'node:zlib'
import { enter, isAccessible } from './pages'
import { Server } from './server.mjs'

// The views stand by themselves: they are looked at side by side.
test.describe.configure({ mode: 'parallel' })
const server = new Server()
test.beforeAll(async () => void (await server.start()))
test.afterAll(() => server.kill())

type Floor = { students: { id: string; name: string; open: { id: string } | null }[] }

async function signIn(page: Page): Promise<Floor> {
  await enter(server.url, page)
  return (await page.request.get(`${server.url}/api/floor`)).json()
}

async function isSound(page: Page, rules?: string[]) {
  await isAccessible(page, rules)
  const cut = await page.evaluate(() => document.documentElement.scrollWidth > window.innerWidth)
  expect(cut, 'wider than the window').toBe(false)
}

const who = (floor: Floor, name: string) => floor.students.find((student) => student.name === name)!
const VIEWS: [string, (floor: Floor) => string, RegExp][] = [
  ['floor', () => '/', /Everyone/],
  ['student', (floor) => `/students/${who(floor, 'Ines Halvorsen').id}`, /By stage/],
  ['bench fit-up', (floor) => `/coupons/${who(floor, 'Tobias Okoro').open!.id}`, /Before an arc is struck/],
  ['bench weld', (floor) => `/coupons/${who(floor, 'Dev Pillai').open!.id}`, /^Log .* clean$/],
  ['decision', (floor) => `/students/${who(floor, 'Dev Pillai').id}/decide/R3`, /Chance to\s+pass/],
  ['plan, the week', () => '/plan', /What is still ahead adds|This week is over/],
  ['plan, steps', () => '/plan/steps', /What to practise next/],
  ['plan, stock', () => '/plan/stock', /What the week takes/],
  ['plan, the school', () => '/plan/setup', /Booths, as they stand/],
  ['plan, sheets', () => '/plan/print', /Call before you go on|Nothing is planned any more/],
  ['ready', () => '/ready', /The school asks/],
  ['track record', () => '/ready/record', /sittings were passed; by what was said/],
  ['sittings', () => '/sittings', /To come/],
  ['policy', () => '/ready/policy/P8', /Gates that must be met first/],
  ['learn', () => '/learn', /What keeps going wrong/],
  ['tag', (floor) => `/coupons/${who(floor, 'Dev Pillai').open!.id}/tag`, /Strike the stamp/],
  ['library, a test', () => '/library/R4', /What it qualifies/],
  ['library, limits', () => '/library/limits/aws-d1.1', /Undercut/],
  ['library, for a job', () => '/library/job', /Which tests/],
  ['shop math', () => '/shop?card=heat', /kJ\/in/],
  ['missing coupon', () => '/coupons/00000000-0000-7000-8000-000000000000', /Not here/],
  ['school, people', () => '/school', /Who instructs, leads/],
  ['school, classes', () => '/school?part=classes', /Classes that meet/],
  ['school, who did what', () => '/school?part=acts', /Nothing was changed yet|Earlier|Did/],
  ['school, devices', () => '/school?part=devices', /Arc loggers/],
  ['school, keeping', () => '/school?part=keeping', /How long a school has to keep/],
  ['school, settings', () => '/school?part=school', /In which days and times/],
  ['parts', () => '/ui', /Three ranks/],
  ['missing page', () => '/nothing', /There is no such page/],
]

for (const [name, path, says] of VIEWS) {
  test(`${name}: accessible and uncut, at the desk, in the dark and on a tablet`, async ({ page }) => {
    const floor = await signIn(page)
    await page.goto(server.url + path(floor))
    await expect(page.getByText(says).first()).toBeVisible()
    await isSound(page)
    // What differs by theme and what differs by size are looked at together, and nothing else again.
    await page.evaluate(() => document.documentElement.classList.add('dark'))
    await page.setViewportSize({ width: 820, height: 1180 })
    await isSound(page, ['color-contrast', 'target-size'])
  })
}

test('finding, looking and starting panels are accessible', async ({ page }) => {
  const floor = await signIn(page)
  await page.goto(`${server.url}/coupons/${who(floor, 'Dev Pillai').open!.id}`)
  await page.getByRole('button', { name: 'Add a finding' }).click()
  await page.getByRole('button', { name: 'Undercut' }).click()
  await isSound(page)
  await page.getByRole('button', { name: 'Leave it out' }).click()
  await page.getByRole('tab', { name: 'Look and close' }).click()
  await expect(page.getByText('without it')).toBeVisible()
  await isSound(page)
  await page.goto(server.url)
  await page.getByRole('button', { name: /^Free: start here/ }).first().click()
  await expect(page.getByRole('dialog')).toBeVisible()
  await isSound(page)
})

test('runs, measures, what is wanting and putting right are accessible and uncut', async ({ page }) => {
  const floor = await signIn(page)
  const id = who(floor, 'Dev Pillai').open!.id
  for (const size of [{ width: 820, height: 1180 }, { width: 1280, height: 800 }]) {
    await page.setViewportSize(size)
    await page.goto(`${server.url}/coupons/${id}`)
    await page.getByText('Measured of this run').click()
    await expect(page.getByRole('group', { name: 'Runs of this bead' })).toBeVisible()
    await page.getByText('Beads', { exact: true }).click()
    await isSound(page)
  }
  await page.locator('main').getByRole('button', { name: 'More', exact: true }).click()
  await page.getByRole('button', { name: 'Put right' }).click()
  await expect(page.getByRole('dialog')).toBeVisible()
  await isSound(page)
})

test('floor and bench on a phone, with names that do not end: nothing is cut, and a thumb finds every target', async ({ page }) => {
  const floor = await signIn(page)
  const one = who(floor, 'Dev Pillai')
  const long = 'Grauwackensteinhauer'.repeat(4)
  const student = await (await page.request.get(`${server.url}/api/students/${one.id}`)).json()
  const { hand, classGroupId, targetTestId } = student
  expect((await page.request.put(`${server.url}/api/students/${one.id}/details`, { data: { name: long, hand, classGroupId, targetTestId, note: null } })).ok()).toBe(true)
  for (const size of [{ width: 390, height: 844 }, { width: 820, height: 1180 }, { width: 1280, height: 800 }]) {
    await page.setViewportSize(size)
    for (const path of ['/', `/coupons/${one.open!.id}`]) {
      await page.goto(server.url + path)
      await expect(page.getByText(long).first()).toBeVisible()
      const cut = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)
      expect(cut, `${path} at ${size.width}`).toBeLessThanOrEqual(0)
      // Links in running text aside; the places of ring and strip and the beads take the nearest, with nudges beside.
      const small = await page.evaluate(() =>
        [...document.querySelectorAll('main button, main summary, main [role=tab], .plate, .lead, .bare')]
          .filter((target) => (target as HTMLElement).offsetParent !== null)
          .filter((target) => target.getBoundingClientRect().height < 47.5)
          .map((target) => `${target.textContent?.trim().slice(0, 40)}: ${target.getBoundingClientRect().height}`),
      )
      expect(small, `${path} at ${size.width}`).toEqual([])
    }
  }
  await page.request.put(`${server.url}/api/students/${one.id}/details`, { data: { name: one.name, hand, classGroupId, targetTestId, note: null } })
})

test('steps are gone through with the arrow keys, and a menu gives the focus back', async ({ page }) => {
  const floor = await signIn(page)
  await page.goto(`${server.url}/coupons/${who(floor, 'Emeka Strand').open!.id}`)
  await page.getByRole('tab', { selected: true }).focus()
  await page.keyboard.press('Home')
  await expect(page.getByRole('tab', { name: /^Fit-up/ })).toBeFocused()
  await expect(page.getByText('Before an arc is struck')).toBeVisible()
  await page.keyboard.press('ArrowLeft')
  await expect(page.getByRole('tab', { name: 'Look and close' })).toBeFocused()
  await expect(page.getByRole('button', { name: 'Close with this verdict' })).toBeVisible()
  const menu = page.locator('main').getByRole('button', { name: 'More', exact: true })
  await menu.click()
  await page.getByRole('link', { name: 'Tag for the steel' }).focus()
  await page.keyboard.press('Escape')
  await expect(menu).toBeFocused()
  await expect(menu).toHaveAttribute('aria-expanded', 'false')
})

test('signing in: accessible, and a wrong PIN is said', async ({ page }) => {
  await page.goto(server.url)
  await page.getByLabel('PIN').fill('1111')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByText('That PIN does not belong to that name.')).toBeVisible()
  await isSound(page)
})

test('a school begins empty with a first-run page and is open a minute later', async ({ page }) => {
  const empty = await new Server({ demo: false }).start()
  try {
    await page.goto(empty.url)
    await expect(page.getByRole('heading', { name: 'Set up your school' })).toBeVisible()
    await isSound(page)
    await page.getByRole('button', { name: 'Open the floor' }).click()
    await expect(page.getByText(/Give the school's name/)).toBeVisible()
    await page.getByLabel('School').fill('A school with quite a long name for its evening classes')
    await page.getByLabel('Your name').fill('Lead')
    await page.getByLabel('Your PIN').fill('4711')
    await page.getByRole('button', { name: 'Open the floor' }).click()
    await page.getByRole('button', { name: 'Add the first student' }).click()
    const longest = 'Maximiliana-Theodora von und zu Hohenfelsenburg-Untersteinbach the Younger, II'
    await page.getByRole('dialog').getByLabel('Name').fill(longest)
    await page.getByRole('button', { name: 'Add', exact: true }).click()
    await page.getByRole('link', { name: longest }).click()
    await expect(page.getByText('No whole coupon on this test yet.').first()).toBeVisible()
    await isSound(page)
  } finally {
    await empty.kill()
  }
})

test('the first page loads under 250 kB of script, gzipped', async ({ page }) => {
  await signIn(page)
  const scripts: Promise<Buffer>[] = []
  page.on('response', (response) => {
    if (response.request().resourceType() === 'script' || response.url().endsWith('.js')) scripts.push(response.body())
  })
  await page.goto(server.url)
  await expect(page.getByText('Everyone', { exact: true })).toBeVisible()
  const size = (await Promise.all(scripts)).reduce((sum, body) => sum + gzipSync(body).length, 0)
  expect(scripts.length).toBeGreaterThan(0)
  expect(size).toBeLessThan(250_000)
  console.log(`initial script: ${Math.round(size / 1000)} kB gzipped`)
})
