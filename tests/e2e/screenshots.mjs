// Takes the pictures in docs/screenshots from the demo data. Needs a built server: ./gradus screenshots builds it.
import { chromium as browserType } from '@playwright/test'
import { mkdirSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'
import { chromium } from './chromium.mjs'
import { Server } from './server.mjs'

const folder = resolve(dirname(fileURLToPath(import.meta.url)), '../../docs/screenshots')
mkdirSync(folder, { recursive: true })
const DESK = { width: 1280, height: 800 }
const TABLET = { width: 820, height: 1180 }

const server = await new Server().start()
const browser = await browserType.launch(chromium)
const context = await browser.newContext({ viewport: DESK, reducedMotion: 'reduce' })
const page = await context.newPage()

async function take(name, url, size = DESK, prepare = async () => {}) {
  await page.setViewportSize(size)
  await page.goto(url)
  // The floor's feed stays open, so the network is never idle.
  await page.waitForLoadState('load')
  // What is fetched says so only after a moment: a second without it, and it is there.
  for (let calm = 0; calm < 4; ) {
    await page.waitForTimeout(250)
    calm = (await page.getByText(/^Fetching/).count()) > 0 ? 0 : calm + 1
  }
  await prepare()
  await page.evaluate(() => document.fonts.ready)
  await page.waitForTimeout(600)
  await page.screenshot({ path: join(folder, `${name}.png`) })
}

const { instructors } = await (await context.request.get(`${server.url}/api/session`)).json()
await context.request.post(`${server.url}/api/session`, { data: { instructorId: instructors[0].id, pin: '2468' } })
const floor = await (await context.request.get(`${server.url}/api/floor`)).json()
const who = (name) => floor.students.find((student) => student.name === name)
const bench = (name) => `${server.url}/coupons/${who(name).open.id}`

await take('floor', server.url)
await take('plan', `${server.url}/plan`, DESK, () => page.locator('[data-board]').waitFor())
await take('steps', `${server.url}/plan/steps?student=${who('Noor Haddix').id}`)
await take('student', `${server.url}/students/${who('Ines Halvorsen').id}`, DESK, () => page.waitForTimeout(1500))
await take('bench-fit-up-tablet', bench('Tobias Okoro'), TABLET)
await take('bench-weld', bench('Emeka Strand'))
const finding = async () => {
  await page.getByRole('button', { name: "4:30 o'clock" }).click()
  await page.getByRole('button', { name: 'Cap', exact: true }).click()
  await page.getByRole('button', { name: 'Undercut' }).click()
  await page.getByRole('button', { name: 'Right toe' }).last().click()
  await page.getByRole('button', { name: 'Depth 3/64 in' }).click()
  await page.getByText(/the limit is/).first().waitFor()
  await page.evaluate(() => scrollTo(0, 0))
}
await take('bench-finding-dark-tablet', bench('Dev Pillai'), TABLET, async () => {
  await page.evaluate(() => document.documentElement.classList.add('dark'))
  await finding()
})
await take('decision', `${server.url}/students/${who('Ines Halvorsen').id}/decide/R3`)
await take('ready', `${server.url}/ready`)
const sat = (await (await context.request.get(`${server.url}/api/sittings`)).json()).done[0]
await take('booking', `${server.url}/students/${who('Leila Farrow').id}/book/P8`)
await take('sitting-tablet', `${server.url}/sittings/${sat.id}`, TABLET)
await take('record', `${server.url}/certificates/${sat.certificateId}`)
await take('track-record', `${server.url}/ready/record`, DESK, () => page.waitForTimeout(1000))
await take('learn', `${server.url}/learn`, DESK, () => page.waitForTimeout(1000))

await take('library', `${server.url}/library/R3`)
await take('shop-math', `${server.url}/shop?card=plunger`)
await take('school', `${server.url}/school?part=classes`)

// This screen is a wall from then on.
await context.request.post(`${server.url}/api/session/wall`, { data: { names: 'first' } })
await take('wall', server.url, { width: 1280, height: 720 })

// A student in the booth, on a tablet of the shop.
await context.clearCookies()
await context.request.post(`${server.url}/api/session`, { data: { instructorId: who('Ines Halvorsen').id, pin: '2468' } })
await take('booth-tablet', `${server.url}/coupons/${who('Ines Halvorsen').open.id}`, TABLET)

await browser.close()
await server.kill('SIGTERM')
