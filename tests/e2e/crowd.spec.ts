import { expect, test, type Page } from '@playwright/test'
import { enter } from './pages'
import { Server } from './server.mjs'

// Every main view with as many students as a large school has, with one, and with none; with names that do not end; without the network.
let crowd: Server
let few: Server
const SIZES = [
  { width: 390, height: 844 },
  { width: 820, height: 1180 },
  { width: 1280, height: 800 },
]
const MANY = 120
const LONG = 'Grauwackensteinhauer'.repeat(4)

type Student = { id: string; name: string; open: { id: string } | null }
let coupon = ''
let student = ''
let alone = ''

async function add(url: string, request: Page['request'], name: string, index: number) {
  const classes = await (await request.get(`${url}/api/classes`)).json()
  const id = crypto.randomUUID()
  const data = { name, classGroupId: classes[index % classes.length].id, hand: 'right', targetTestId: index % 2 ? 'P8' : 'R3', evenIfAlike: true }
  expect((await request.put(`${url}/api/students/${id}`, { data })).ok()).toBe(true)
  return id
}

test.beforeAll(async ({ browser }) => {
  // Made here: after a test that fails, this runs again, and wants schools that nothing was done to.
  crowd = new Server()
  few = new Server({ demo: false })
  await Promise.all([crowd.start(), few.start()])
  const page = await browser.newPage()
  await enter(crowd.url, page)
  const students: Student[] = (await (await page.request.get(`${crowd.url}/api/floor`)).json()).students
  const one = students.find((found) => found.name === 'Dev Pillai')!
  coupon = one.open!.id
  student = one.id
  const { hand, classGroupId, targetTestId } = await (await page.request.get(`${crowd.url}/api/students/${one.id}`)).json()
  const data = { name: LONG, hand, classGroupId, targetTestId, note: null }
  expect((await page.request.put(`${crowd.url}/api/students/${one.id}/details`, { data })).ok()).toBe(true)
  for (let index = students.length; index < MANY; index++) {
    const words = `Maximiliana-Theodora ${index} von und zu Hohenfelsenburg-Untersteinbach the Younger`
    await add(crowd.url, page.request, index % 3 ? words : `${index}${LONG}`.slice(0, 80), index)
  }
  const setup = { schoolName: 'A small school', timeZone: 'Europe/Oslo', instructorName: 'Lead', pin: '4711', booths: 3 }
  expect((await page.request.post(`${few.url}/api/setup`, { data: setup })).ok()).toBe(true)
  alone = await add(few.url, page.request, 'Only One', 0)
  await page.close()
})
test.afterAll(async () => void (await Promise.all([crowd.kill(), few.kill()])))

const VIEWS: [string, string, RegExp][] = [
  ['floor', '/', /Everyone/],
  ['wall', '/?wall', /A wall screen shows this/],
  ['bench', '/coupons/COUPON', /^Log .* clean$/],
  ['student', '/students/STUDENT', /By stage/],
  ['decision', '/students/STUDENT/decide/R3', /Chance to\s+pass/],
  ['plan', '/plan', /What is still ahead adds|This week is over/],
  ['steps', '/plan/steps', /What to practise next/],
  ['stock', '/plan/stock', /What the week takes/],
  ['school', '/plan/setup', /Booths, as they stand/],
  ['sheets', '/plan/print', /Call before you go on|Nothing is planned any more/],
  ['ready', '/ready', /The school asks/],
  ['track record', '/ready/record', /sittings were passed/],
  ['learn', '/learn', /What keeps going wrong/],
  ['library', '/library/R3', /What it qualifies/],
  ['limits', '/library/limits/aws-d1.1', /Undercut/],
  ['job', '/library/job', /Which tests/],
  ['shop math', '/shop?card=heat', /kJ\/in/],
]

for (const [name, path, says] of VIEWS) {
  test(`${name}: ${MANY} students with long names are nowhere wider than the window, and all stays without the network`, async ({ page, context }) => {
    await enter(crowd.url, page)
    await page.setViewportSize(SIZES[0]!)
    await page.goto(crowd.url + path.replace('COUPON', coupon).replace('STUDENT', student))
    await expect(page.getByText(says).first()).toBeVisible()
    await page.evaluate(() => document.fonts.ready)
    for (const size of SIZES) {
      await page.setViewportSize(size)
      // Charts are drawn anew for their new width.
      await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => setTimeout(done, 150))))
      const wide = await page.evaluate(() => {
        const over = document.documentElement.scrollWidth - window.innerWidth
        if (over <= 0) return ''
        // Says which, so that it can be mended.
        const all = [...document.querySelectorAll('main *')].filter((one) => one.getBoundingClientRect().right > window.innerWidth + 1)
        return `${over} px: ${all
          .slice(0, 3)
          .map((one) => `${one.tagName}.${one.className}`)
          .join(' | ')}`
      })
      expect.soft(wide, `${name} at ${size.width}`).toBe('')
    }
    // Sheets are for paper: they have no bar to say it in.
    if (name === 'sheets') return
    await context.setOffline(true)
    await expect(page.getByText(/No network/i).first()).toBeVisible()
    await expect(page.getByText(says).first()).toBeVisible()
  })
}

const SMALL: [string, string, RegExp][] = [
  ['floor', '/', /Only One/],
  ['student', '/students/ALONE', /No whole coupon on this test yet/],
  ['decision', '/students/ALONE/decide/R3', /Chance to\s+pass/],
  ['plan', '/plan', /Plan the week|No week is planned|not planned/i],
  ['stock', '/plan/stock', /Nothing to cut/],
  ['sheets', '/plan/print', /Nothing is planned/],
  ['ready', '/ready', /Only One|Nobody/],
  ['track record', '/ready/record', /No sitting|sittings/],
  ['learn', '/learn', /Too little|Nothing|No coupon/],
]
test('one student and nothing logged: every view says what is missing', async ({ page }) => {
  await enter(few.url, page, '4711')
  const wrong: string[] = []
  page.on('pageerror', (error) => wrong.push(error.message))
  for (const [name, path, says] of SMALL) {
    await page.goto(few.url + path.replace('ALONE', alone))
    await expect.soft(page.getByText(says).first(), name).toBeVisible()
    await expect.soft(page.getByText(/NaN|undefined|Infinity|null\b/), name).toHaveCount(0)
    expect.soft(wrong, name).toEqual([])
  }
})

test('what could not be fetched says so, and is asked for again', async ({ page, context }) => {
  await enter(crowd.url, page)
  await page.goto(`${crowd.url}/ready`)
  await page.goto(`${crowd.url}/learn`)
  await expect(page.getByText(/What keeps going wrong/)).toBeVisible()
  await page.route('**/api/ready*', (route) => route.abort())
  await page.getByRole('link', { name: 'Ready', exact: true }).click()
  await expect(page.getByRole('button', { name: /Try again/ })).toBeVisible()
  await page.unroute('**/api/ready*')
  await page.getByRole('button', { name: /Try again/ }).click()
  await expect(page.getByText(/The school asks/).first()).toBeVisible()

  // What cannot be looked up is not said to be missing.
  await page.keyboard.press('/')
  await expect(page.getByLabel(/Find a student/)).toBeFocused()
  await context.setOffline(true)
  await page.getByLabel(/Find a student/).fill('Rosalind')
  await expect(page.getByText('It cannot be looked up: The server cannot be reached.')).toBeVisible()
  await context.setOffline(false)
  await page.getByLabel(/Find a student/).fill('Rosalind P')
  await expect(page.getByRole('option', { name: /Rosalind Peake/ })).toBeVisible()
})
