import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs'
import { request as ask, type RequestOptions } from 'node:https'
import { networkInterfaces, tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium as browserType, expect, test } from '@playwright/test'
import { chromium } from './chromium.mjs'
import { isReadAhead, layBeads } from './pages'
import { freePort, Server } from './server.mjs'

// The server over the network, as a tablet of the shop reaches it.
const address = Object.values(networkInterfaces())
  .flat()
  .find((one) => one!.family === 'IPv4' && !one!.internal)?.address
const server = new Server()
let https = 0
let authority = ''

test.beforeAll(async () => {
  https = await freePort()
  await server.start({ GRADUS_HOST: '0.0.0.0', GRADUS_HTTPS_PORT: `${https}`, GRADUS_NAMES: 'shop.local' })
  const answer = await fetch(`${server.url}/authority.crt`)
  const der = Buffer.from(await answer.arrayBuffer())
  authority = `-----BEGIN CERTIFICATE-----\n${der.toString('base64').replace(/.{64}/g, '$&\n')}\n-----END CERTIFICATE-----\n`
})
test.afterAll(() => server.kill())

const get = (options: RequestOptions) =>
  new Promise<number>((done, failed) => ask({ path: '/api/health', port: https, ...options }, (answer) => done(answer.statusCode!)).on('error', failed).end())

test('over HTTPS the machine is known by its names and addresses to whoever trusts the authority, and to nobody else', async () => {
  expect(await get({ host: '127.0.0.1', ca: authority })).toBe(200)
  expect(await get({ host: 'localhost', ca: authority })).toBe(200)
  await expect(get({ host: '127.0.0.1' })).rejects.toThrow(/unable to verify|self.signed/)
  await expect(get({ host: '127.0.0.1', servername: 'bank.example', ca: authority })).rejects.toThrow(/altnames|does not match/)
})

/** A browser of its own that trusts the shop, as a tablet does after installing its authority. */
async function trusting() {
  const home = mkdtempSync(join(tmpdir(), 'gradus-home-'))
  const store = join(home, '.pki', 'nssdb')
  mkdirSync(store, { recursive: true })
  writeFileSync(join(home, 'authority.pem'), authority)
  execFileSync('certutil', ['-d', `sql:${store}`, '-N', '--empty-password'])
  execFileSync('certutil', ['-d', `sql:${store}`, '-A', '-t', 'C,,', '-n', 'shop', '-i', join(home, 'authority.pem')])
  // The shop's own name, as its network would resolve it.
  const args = [...chromium.args, `--host-resolver-rules=MAP shop.local ${address}`]
  const browser = await browserType.launch({ ...chromium, args, env: { ...process.env, HOME: home } as Record<string, string> })
  const context = await browser.newContext({ viewport: { width: 820, height: 1180 }, reducedMotion: 'reduce', serviceWorkers: 'allow' })
  return { browser, context, page: await context.newPage() }
}

test('a tablet that trusts the shop works without the network, and its entries arrive once', async () => {
  test.setTimeout(240_000)
  const there = `https://127.0.0.1:${https}`
  const { browser, context, page } = await trusting()
  await page.goto(there)
  await page.getByLabel('PIN').fill('2468')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('heading', { name: 'Floor' })).toBeVisible()
  const cookies = await context.cookies()
  expect(cookies.filter((one) => one.name.startsWith('gradus')).every((one) => one.secure && one.httpOnly)).toBe(true)
  const { students } = await (await page.request.get(`${there}/api/floor`, { ignoreHTTPSErrors: true })).json()
  const student = students.find((one: { name: string }) => one.name === 'Ines Halvorsen')
  const id = student.open.id as string
  await expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller !== null)).toBe(true)
  await page.reload()
  await isReadAhead(page, `/api/coupons/${id}`)
  await context.setOffline(true)
  await page.goto(`${there}/coupons/${id}`)
  await page.reload()
  const left = (student.open.beadsPlanned - student.open.beadsLaid) as number
  await layBeads(page, left)
  await page.getByRole('tab', { name: 'Look and close' }).click()
  await expect(page.getByText(/on this tablet/).first()).toBeVisible()
  await context.setOffline(false)
  await expect.poll(async () => (await (await page.request.get(`${there}/api/coupons/${id}`, { ignoreHTTPSErrors: true })).json()).beads.filter((one: { pass: unknown }) => one.pass).length, { timeout: 60_000 }).toBe(student.open.beadsPlanned)
  await browser.close()
})

test('over HTTP from elsewhere there is one page, and what waits there is taken along', async ({ page }) => {
  expect(address, 'this machine is in a network').toBeTruthy()
  expect((await fetch(`http://${address}:${server.port}/api/session`)).status).toBe(403)
  const there = `http://shop.local:${server.port}`
  // Whoever does not trust the shop yet is told how; whoever does is led on.
  await page.goto(`http://${address}:${server.port}/coupons/x`)
  await expect(page.getByRole('link', { name: "Take the shop's authority" })).toBeVisible()
  const first = await trusting()
  await first.page.goto(`${there}/ready`)
  await first.page.waitForURL(`https://shop.local:${https}/ready`)
  await first.browser.close()

  // Something waits under the old address: it is shown, kept over there, and gone here.
  const second = await trusting()
  await second.page.goto(`${there}/icon.svg`)
  await second.page.evaluate(
    () =>
      new Promise((done) => {
        const asked = indexedDB.open('gradus', 1)
        asked.onupgradeneeded = () => asked.result.createObjectStore('writes', { keyPath: 'seq', autoIncrement: true })
        asked.onsuccess = () => {
          const change = asked.result.transaction('writes', 'readwrite')
          change.objectStore('writes').add({ method: 'PUT', path: '/api/coupons/01a229b4-8b9f-7728-9b29-fbd4b7294230/notes/01a229b4-8b9f-7728-9b29-fbd4b7294231', body: { text: 'x' }, couponId: 'x', label: 'a note', author: 'ticket', authorName: 'Greta' })
          change.oncomplete = done
        }
      }),
  )
  await second.page.goto(`${there}/coupons/x`)
  await expect(second.page.getByText(/1 entry waits on this tablet/)).toBeVisible()
  const opened = second.context.waitForEvent('page')
  await second.page.getByRole('link', { name: 'Take them along and go on' }).click()
  const over = await opened
  await expect(over.getByText(/a note, Greta/)).toBeVisible()
  await over.getByRole('button', { name: 'These are mine: keep them' }).click()
  await expect(over.getByText(/Kept\. They go to the server/)).toBeVisible()
  await expect(second.page.getByText('Taken along. This page can be closed.')).toBeVisible()
  await over.getByRole('link', { name: 'Go on' }).click()
  await expect(over.getByText(/1 entry waits on this tablet/)).toBeVisible()
  await second.browser.close()
})
