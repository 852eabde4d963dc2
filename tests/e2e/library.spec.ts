import { expect, test } from '@playwright/test'
import { readFile } from 'node:fs/promises'
import { enter, isAccessible } from './pages'
import { Server } from './server.mjs'

const server = new Server()
test.beforeAll(async () => void (await server.start()))
test.afterAll(() => server.kill())

test('a test is changed, shown in its new version, exported and brought in again as a copy', async ({ page }) => {
  await enter(server.url, page)
  await page.goto(`${server.url}/library/P1`)
  await expect(page.getByRole('heading', { name: /P1/ })).toBeVisible()
  await page.getByRole('button', { name: 'Two beads' }).click()
  await expect(page.getByRole('img').or(page.getByRole('group', { name: /6 beads|7 beads/ })).first()).toBeVisible()

  await page.getByRole('button', { name: 'Edit' }).click()
  await page.getByLabel('Beads in each layer').last().fill('4')
  await page.getByLabel('Beads in each layer').last().press('Tab')
  await page.reload() // what is typed outlives the page
  await expect(page.getByLabel('Beads in each layer').last()).toHaveValue('4')
  await page.getByLabel('Why').fill('Four beads on our plate')
  await page.getByRole('button', { name: 'Save as version 2' }).click()
  await expect(page.getByText('Greta Lindqvist-Moe', { exact: false }).filter({ hasText: 'Four beads on our plate' })).toBeVisible()

  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Export' }).click()])
  const file = JSON.parse(await readFile(await download.path(), 'utf8'))
  expect(file.version).toBe(2)
  const copy = JSON.stringify({ ...file, id: 'P1-S', title: 'Our plate' })
  await page.getByLabel('A test as a JSON file').setInputFiles({ name: 'ours.json', mimeType: 'application/json', buffer: Buffer.from(copy) })
  await expect(page.getByRole('heading', { name: 'New test P1-S' })).toBeVisible()
  await page.getByLabel('Why').fill('Brought in')
  await page.getByRole('button', { name: 'Save the new test' }).click()
  await expect(page.getByRole('heading', { name: /P1-S/ })).toBeVisible()
})

test('a file that does not hold together says where, and is not saved', async ({ page }) => {
  await enter(server.url, page)
  await page.goto(`${server.url}/library/P8`)
  await page.getByRole('button', { name: 'Copy' }).click()
  await page.getByRole('button', { name: 'Everything as JSON' }).click()
  const text = page.getByLabel('The test as JSON').last()
  await text.fill((await text.inputValue()).replace('"bevelDegA": 22.5', '"bevelDegA": 95'))
  await page.getByRole('button', { name: 'Take it over' }).click()
  await page.getByLabel('Why').fill('x')
  await expect(page.getByText('A bevel is from 0 to 75 degrees.')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Save the new test' })).toBeDisabled()
  await page.getByRole('button', { name: 'Put away' }).click()
})

test('the aerospace limits are entered in a copy, and the shipped ones stay', async ({ page }) => {
  await enter(server.url, page)
  await page.goto(`${server.url}/library/limits/aws-d17.1`)
  await expect(page.getByText('No limits entered')).toBeVisible()
  await page.getByRole('button', { name: 'Make a copy to change' }).click()
  await page.getByRole('button', { name: 'Add a limit' }).click()
  await page.getByLabel('At most').fill('0.002')
  await page.getByLabel('Why').fill('From our own copy of the standard')
  await page.getByRole('button', { name: 'Save the copy' }).click()
  await expect(page.getByText('From our own copy of the standard')).toBeVisible()
  await expect(page.getByText('0.002 in')).toBeVisible() // saved at once after typing, and read all the same
  await page.goto(`${server.url}/library/limits/aws-d17.1`)
  await expect(page.getByText('No limits entered')).toBeVisible()
})

test('a job is turned into tests, and what nothing covers is said', async ({ page }) => {
  await enter(server.url, page)
  await page.goto(`${server.url}/library/job`)
  await page.getByRole('button', { name: 'Which tests?' }).click()
  await expect(page.getByText('No smaller choice covers it')).toBeVisible()
  await page.getByRole('region', { name: 'Make it a student' }).getByRole('combobox').selectOption({ label: 'Yuki Tarrant' })
  await page.getByRole('textbox', { name: 'The job' }).fill('Barge repair')
  await page.getByRole('button', { name: 'Set as the goal' }).click()
  await expect(page.getByRole('heading', { name: 'Yuki Tarrant: the way' })).toBeVisible()
  await expect(page.getByText('for Barge repair')).toBeVisible()
  await page.goto(`${server.url}/library/job`)
  await page.getByLabel('F-number of the filler').fill('21')
  await page.getByRole('button', { name: 'Which tests?' }).click()
  await expect(page.getByText('no test of the library covers it')).toBeVisible()
})

test('shop math follows what is typed, and its link reopens the same numbers', async ({ page }) => {
  await enter(server.url, page)
  await page.goto(`${server.url}/shop`)
  await page.getByRole('link', { name: 'Heat input' }).click()
  const heat = page.getByRole('region', { name: 'Heat input' })
  await expect(heat.getByText('29.26 kJ/in')).toBeVisible() // ASME IX QW-409.1: 24 V x 200 A x 60 / (250 mm/min / 25.4) = 29 261 J/in
  await heat.getByLabel('Amps').fill('100')
  await expect(heat.getByText('14.63 kJ/in')).toBeVisible()
  await heat.getByLabel('Amps').fill('many')
  await expect(heat.getByText('Give a number.')).toBeVisible()

  await page.getByRole('link', { name: 'Bend jig' }).click()
  const bend = page.getByRole('region', { name: 'Bend jig' })
  await bend.getByLabel('Plunger diameter').fill('2-1/2')
  await expect(bend.getByText('13.0 %')).toBeVisible() // ASME IX QW-466
  await bend.getByLabel('Plunger diameter').fill('2 x 4')
  await expect(bend.getByRole('alert')).toBeVisible()
  await bend.getByLabel('Plunger diameter').fill('50.8 mm')
  await expect(bend.getByText('15.8 %')).toBeVisible()
  await bend.getByRole('button', { name: 'How' }).click()
  await expect(bend.getByText('QW-466')).toBeVisible()

  await page.evaluate(() => localStorage.clear())
  await page.goto(`${server.url}/shop?card=bend&specimenThicknessMm=9.525&plungerDiameterMm=63.5`)
  await expect(page.getByRole('region', { name: 'Bend jig' }).getByText('13.0 %')).toBeVisible()
  await expect(page.getByRole('region', { name: 'Bend jig' }).getByLabel('Plunger diameter')).toHaveValue('2 1/2')
})

test('every card of the shop math answers', async ({ page }) => {
  await enter(server.url, page)
  await page.goto(`${server.url}/shop`)
  const links = page.getByRole('navigation', { name: 'Calculations' }).getByRole('link')
  await expect(links).toHaveCount(17)
  const names = await links.allInnerTexts()
  for (const name of names) {
    await page.getByRole('link', { name, exact: true }).click()
    const card = page.getByRole('region', { name, exact: true })
    await expect(card.locator('.result')).toHaveText(/\d/)
    await expect(card.getByRole('alert')).toHaveCount(0)
    await expect(page.locator('.shop-card')).toHaveCount(1)
  }

  // On a phone the one card fills the width, and the others are a list to choose from.
  await page.setViewportSize({ width: 390, height: 844 })
  await page.getByRole('combobox', { name: 'Calculation' }).selectOption({ label: 'Preheat' })
  await page.getByLabel('Thickness, one part').fill('2')
  // AWS D1.1 Table 3.3 (2015), 5.8 (2020), category B, over 1 1/2 to 2 1/2 in: 150 °F
  await expect(page.getByRole('region', { name: 'Preheat' }).getByText('150 °F', { exact: true })).toBeVisible()
  await expect(page.getByText('warm it to 150 °F')).toBeVisible()
  expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(0)
})

test('a school makes a test of its own from nothing, and another reads its file to the same plan', async ({ page }) => {
  await enter(server.url, page)
  await page.goto(`${server.url}/library/P1`)
  await page.getByRole('button', { name: 'New' }).click()
  await page.getByLabel('Id', { exact: true }).fill('OWN-1')
  await page.getByLabel('Title', { exact: true }).fill('Our pipe, two processes')
  await page.getByLabel('Made of').selectOption('pipe')
  await page.getByLabel('Pipe size').selectOption('4')
  await page.getByLabel('Schedule').selectOption('STD')
  await page.getByLabel('Behind the root').selectOption('none')
  await page.getByRole('group', { name: /^Positions/ }).getByRole('button', { name: '6G', exact: true }).click()
  await page.getByLabel('Process').first().selectOption('gtaw')
  await page.getByLabel('Filler', { exact: true }).first().fill('ER70S-2')
  await page.getByLabel('Beads in each layer').last().fill('2')
  await page.getByLabel('Beads in each layer').last().press('Tab')
  await page.locator('summary', { hasText: 'Under test' }).click()
  await page.getByRole('button', { name: 'As the code cuts it' }).click()
  await page.locator('summary', { hasText: 'Where schools differ' }).click()
  await page.getByRole('button', { name: 'Add a choice' }).click()
  await page.getByLabel('What differs').fill('Cap')
  await expect(page.getByText(/\d+ beads, about \d+ minutes/)).toBeVisible()
  await page.evaluate(() => document.querySelectorAll<HTMLDetailsElement>('main details').forEach((one) => (one.open = true)))
  await isAccessible(page)
  for (const width of [1280, 820]) {
    await page.setViewportSize({ width, height: 1180 })
    expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth), `${width} wide`).toBeLessThanOrEqual(0)
  }
  await page.getByLabel('Why').fill('Our yard asks for it')
  await page.getByRole('button', { name: 'Save the new test' }).click()
  await expect(page).toHaveURL(/\/library\/OWN-1$/)
  await expect(page.getByText(/^6G; NPS 4 Sch STD/)).toBeVisible()

  // Another school takes the file, and plans the same beads.
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Export' }).click()])
  const file = JSON.parse(await readFile(await download.path(), 'utf8'))
  const other = await new Server().start()
  try {
    const plan = async (url: string) => {
      const made = await fetch(`${url}/api/tests/preview`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ test: file, variants: {} }),
      })
      return (await made.json()).sections
    }
    expect(await plan(other.url)).toEqual(await plan(server.url))
  } finally {
    await other.kill()
  }

  // What is changed afterwards is named before it is saved.
  await page.getByRole('button', { name: 'Edit' }).click()
  await page.getByLabel('Beads in each layer').last().fill('3')
  await page.getByLabel('Beads in each layer').last().press('Tab')
  await expect(page.getByText('No coupon of it is open.', { exact: false })).toBeVisible()
  await expect(page.locator('summary', { hasText: 'What changes' })).toContainText('place')
})
