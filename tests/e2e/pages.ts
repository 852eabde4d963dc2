import AxeBuilder from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'

/** Signs in past the form, as the first of the school's instructors. */
export async function enter(url: string, page: Page, pin = '2468') {
  const { instructors } = await (await page.request.get(`${url}/api/session`)).json()
  const answer = await page.request.post(`${url}/api/session`, { data: { instructorId: instructors[0].id, pin } })
  expect(answer.ok()).toBe(true)
}

/** Nothing that axe finds against WCAG 2.2 AA. */
export async function isAccessible(page: Page) {
  await page.evaluate(() => document.fonts.ready)
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze()
  expect(violations.map((one) => `${one.id}: ${one.nodes.map((node) => node.target).join(', ')}`)).toEqual([])
}
