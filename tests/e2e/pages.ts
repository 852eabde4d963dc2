import AxeBuilder from '@axe-core/playwright'
import { expect, type BrowserContext, type Page } from '@playwright/test'

type Cookies = Awaited<ReturnType<BrowserContext['cookies']>>
const entered = new Map<string, Cookies>()

/** Signs in past the form, as the first of the school's instructors. The PIN is checked once: that is slow on purpose. */
export async function enter(url: string, page: Page, pin = '2468') {
  const context = page.context()
  const known = entered.get(url)
  if (known) await context.addCookies(known)
  // Whoever signed out in an earlier test ended that session on the server.
  if (!known || (await (await page.request.get(`${url}/api/session`)).json()).person === null) {
    const { instructors } = await (await page.request.get(`${url}/api/session`)).json()
    const answer = await page.request.post(`${url}/api/session`, { data: { instructorId: instructors[0].id, pin } })
    expect(answer.ok()).toBe(true)
    entered.set(url, await context.cookies(url))
  }
}

/** Signs what is asked to be signed. */
export async function sign(page: Page, pin = '2468') {
  const dialog = page.getByRole('dialog', { name: 'Your signature' })
  await dialog.getByLabel('Your PIN').fill(pin)
  await dialog.getByRole('button', { name: 'Sign' }).click()
}

/** Nothing that axe finds against WCAG 2.2 AA; of these rules only, where they are named. */
export async function isAccessible(page: Page, rules?: string[]) {
  await page.evaluate(() => document.fonts.ready)
  // Without the page of its own that axe would open for frames: there are none.
  // A week's sheets are many of one kind: three of them speak for all.
  const axe = new AxeBuilder({ page }).setLegacyMode().exclude('section.card.sheet:nth-of-type(n + 4)')
  const runOnly = rules ?? ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']
  const { violations } = await axe.options({ resultTypes: ['violations'], runOnly }).analyze()
  expect(violations.map((one) => `${one.id}: ${one.nodes.map((node) => node.target).join(', ')}`)).toEqual([])
}

/** Waits until something is kept for a day without a network. */
export const isReadAhead = (page: Page, path: string) =>
  expect
    .poll(() => page.evaluate(async (path) => (await (await caches.open('gradus-read')).match(path)) !== undefined, path), { timeout: 60_000 })
    .toBe(true)

/** Lays so many beads of the open coupon, one after another, with a reload before the third where that is tried. */
export async function layBeads(page: Page, count: number, reload = false) {
  const log = page.getByRole('button', { name: /^Log .* clean$/ })
  const seen = page.getByRole('button', { name: 'Seen, go on' })
  for (let laid = 0; laid < count; laid++) {
    if (reload && laid === 2) await page.reload()
    await expect(log.or(seen).first()).toBeVisible()
    if (await seen.isVisible()) await seen.click()
    await log.click()
    await page.waitForTimeout(750) // a second tap within that is a double tap
  }
}
