import { expect, test, type Page } from '@playwright/test'
import { enter, isAccessible } from './pages'
import { Server } from './server.mjs'

// A student's whole job in the booth, with one thumb, on a telephone and on a tablet.
const server = new Server()
const PIN = '703915'
test.beforeAll(async () => void (await server.start()))
test.afterAll(async () => void (await server.kill()))

async function isWhole(page: Page) {
  await isAccessible(page)
  const cut = await page.evaluate(() => document.documentElement.scrollWidth > window.innerWidth)
  expect(cut, 'wider than the window').toBe(false)
}

test('a student is coached in the booth, in the language and the light that they like', async ({ page }) => {
  await enter(server.url, page)
  const { students } = await (await page.request.get(`${server.url}/api/floor`)).json()
  const ines = students.find((one: { name: string }) => one.name === 'Ines Halvorsen')
  const coupon = `${server.url}/api/coupons/${ines.open.id}`
  await page.request.put(`${server.url}/api/students/${ines.id}/pin`, { data: { pin: PIN }, headers: { 'Gradus-Pin': '2468' } })
  await page.context().clearCookies()
  await page.setViewportSize({ width: 390, height: 844 })
  await page.request.post(`${server.url}/api/session`, { data: { instructorId: ines.id, name: null, pin: PIN } })
  await page.goto(`${server.url}/coupons/${ines.open.id}`)
  await expect(page.getByRole('heading', { name: 'Root', exact: true })).toBeVisible()
  await expect(page.getByText('Wait: Fit-up and position')).toBeVisible()

  // Before the arc: a no holds the coach until it is mended.
  await page.getByText('Before the arc').click()
  await page.getByRole('button', { name: /^No: Process and polarity/ }).click()
  await expect(page.getByText('Swap the leads to the card')).toBeVisible()
  await page.getByRole('button', { name: 'Yes to the rest' }).click()
  await expect(page.getByText('Mend this first').first()).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Motion' })).toHaveCount(0)
  await page.getByRole('button', { name: 'Mended, go on' }).click()
  await expect(page.getByRole('heading', { name: 'Motion' })).toBeVisible()
  await expect(page.getByText('Push 0 to 5°: the tip points ahead')).toBeVisible()
  await isWhole(page)

  // The instructor is called to the hold point that is due, and called back.
  await page.getByRole('button', { name: 'Call the instructor' }).click()
  await expect(page.getByText(/^Called \d/)).toBeVisible()
  await page.getByRole('button', { name: 'Take it back' }).click()
  await expect(page.getByRole('button', { name: 'Call the instructor' })).toBeVisible()

  // A double tap is one bead, and it is proposed.
  await page.getByRole('button', { name: 'Log Root' }).dblclick()
  await expect(page.getByRole('heading', { name: 'Fill 2', exact: true })).toBeVisible()
  const kept = async () => {
    const { beads, proposals } = await (await page.request.get(coupon)).json()
    return [beads.filter((bead: { pass: object | null }) => bead.pass).length, proposals.length > 0]
  }
  await expect.poll(kept).toEqual([1, true])

  // In Spanish and in millimetres, on a tablet in the dark: it goes with the person.
  await page.setViewportSize({ width: 820, height: 1180 })
  await page.getByRole('button', { name: /^Ines Halvorsen/ }).click()
  await page.getByRole('button', { name: 'Español' }).click()
  await expect(page.getByRole('heading', { name: 'Relleno 2', exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'mm, °C' }).click()
  await page.getByRole('button', { name: 'Dark' }).click()
  await page.keyboard.press('Escape')
  await expect(page.getByText('Cerrado: 1.6 mm o menos')).toBeVisible()
  await expect(page.getByText(/Empuja 0 a 10°/)).toBeVisible()
  await expect(page.getByText('[en]')).toHaveCount(0)
  await isWhole(page)
  await page.reload()
  await expect(page.getByRole('heading', { name: 'Relleno 2', exact: true })).toBeVisible()

  // What they see themselves is put where it lies, on the whole coupon.
  await page.getByRole('link', { name: 'Veo algo' }).click()
  await expect(page.getByRole('heading', { name: 'A finding' })).toBeVisible()
})

test('the school says it in its own words, and the class is shown what it gets wrong', async ({ page }) => {
  await enter(server.url, page)
  await page.goto(`${server.url}/library/coach`)
  await page.getByLabel('Find a sentence').fill('hollow sound')
  const field = page.getByLabel('English').first()
  await field.fill('A hole like the rod, and it sings')
  await field.blur()
  await expect(page.getByText('Kept in your words.')).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByLabel('English').first()).toHaveValue(/hollow sound/)
  await isWhole(page)
  await page.goto(`${server.url}/learn`)
  await page.getByRole('link', { name: 'A sheet to show it' }).first().click()
  await expect(page.getByRole('button', { name: 'Print the sheet' })).toBeVisible()
  await page.getByRole('button', { name: 'español' }).click()
  await expect(page.getByText('Deciden las normas locales')).toBeVisible()
  await isWhole(page)
})
