// How soon a tablet shows the main views: 4x slower processor, 10 Mbit/s, nothing kept. ./gradus paint
import { createRequire } from 'node:module'
import { chromium as options } from '../tests/e2e/chromium.mjs'
import { Server } from '../tests/e2e/server.mjs'

const { chromium } = createRequire(new URL('../tests/e2e/package.json', import.meta.url))('@playwright/test')
const RUNS = 5
const MEGABIT = 1024 * 1024
const server = await new Server().start()
const browser = await chromium.launch(options)
const median = (values) => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)]

const context = await browser.newContext()
const { instructors } = await (await context.request.get(`${server.url}/api/session`)).json()
await context.request.post(`${server.url}/api/session`, { data: { instructorId: instructors[0].id, pin: '2468' } })
const floor = await (await context.request.get(`${server.url}/api/floor`)).json()
const who = (name) => floor.students.find((student) => student.name === name)
const state = await context.storageState()
await context.close()

const VIEWS = [
  ['floor', '/', 'Add a student'],
  ['bench', `/coupons/${who('Emeka Strand').open.id}`, 'Next bead'],
  ['student', `/students/${who('Ines Halvorsen').id}`, 'By stage'],
  ['decision', `/students/${who('Ines Halvorsen').id}/decide/R3`, 'Grounds'],
  ['ready', '/ready', 'to pass everything'],
  ['plan', '/plan', 'Week'],
  ['library', '/library/R3', 'What it qualifies'],
  ['shop math', '/shop', 'kJ/in'],
]

console.log('view, first paint ms, its words ms, shift, script kB')
for (const [name, path, words] of VIEWS) {
  const rows = []
  for (let run = 0; run < RUNS; run++) {
    const fresh = await browser.newContext({ viewport: { width: 820, height: 1180 }, storageState: state })
    const page = await fresh.newPage()
    const tools = await fresh.newCDPSession(page)
    await tools.send('Network.enable')
    await tools.send('Network.emulateNetworkConditions', {
      offline: false,
      latency: 20,
      downloadThroughput: (10 * MEGABIT) / 8,
      uploadThroughput: (10 * MEGABIT) / 8,
    })
    await tools.send('Emulation.setCPUThrottlingRate', { rate: 4 })
    let script = 0
    const scripts = new Set()
    tools.on('Network.responseReceived', ({ requestId, type }) => type === 'Script' && scripts.add(requestId))
    tools.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
      if (scripts.has(requestId)) script += encodedDataLength
    })
    await page.addInitScript((text) => {
      globalThis.shift = 0
      new PerformanceObserver((list) => {
        for (const entry of list.getEntries()) if (!entry.hadRecentInput) globalThis.shift += entry.value
      }).observe({ type: 'layout-shift', buffered: true })
      const look = () => {
        if (document.body?.innerText.includes(text)) globalThis.shown ??= performance.now()
        else requestAnimationFrame(look)
      }
      requestAnimationFrame(look)
    }, words)
    await page.goto(server.url + path)
    await page.waitForFunction(() => globalThis.shown !== undefined, null, { timeout: 60_000 })
    await page.waitForTimeout(1500)
    const said = await page.evaluate(() => ({
      paint: performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? Number.NaN,
      shown: globalThis.shown,
      shift: globalThis.shift,
    }))
    rows.push({ ...said, script })
    await fresh.close()
  }
  const of = (key) => median(rows.map((row) => row[key]))
  console.log(
    `${name}, ${of('paint').toFixed(0)}, ${of('shown').toFixed(0)}, ${of('shift').toFixed(3)}, ${(of('script') / 1000).toFixed(0)}`,
  )
}

// From the tap to the next frame that shows what it did, as Chromium times it: on the bench, on the same slow tablet.
console.log('\ntap, ms (median of five, slowest)')
const TAPS = [
  ['a stage', (page) => page.getByRole('tab', { name: /^Cap/ })],
  ['add a finding', (page) => page.getByRole('button', { name: 'Add a finding' })],
  ['a place on the ring', (page) => page.getByRole('button', { name: "4:30 o'clock" })],
  ['what was found', (page) => page.getByRole('button', { name: 'Undercut' })],
  ['how deep', (page) => page.getByRole('button', { name: 'Depth 3/64 in' })],
  ['leave it out', (page) => page.getByRole('button', { name: 'Leave it out' })],
  ['the menu', (page) => page.locator('main').getByRole('button', { name: 'More', exact: true })],
]
const taken = new Map(TAPS.map(([name]) => [name, []]))
for (let run = 0; run < RUNS; run++) {
  const fresh = await browser.newContext({ viewport: { width: 820, height: 1180 }, storageState: state })
  const page = await fresh.newPage()
  const tools = await fresh.newCDPSession(page)
  await tools.send('Emulation.setCPUThrottlingRate', { rate: 4 })
  await page.addInitScript(() => {
    globalThis.taps = []
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) if (entry.interactionId) globalThis.taps.push(entry.duration)
    }).observe({ type: 'event', durationThreshold: 16, buffered: true })
  })
  await page.goto(`${server.url}/coupons/${who('Dev Pillai').open.id}`)
  await page.getByRole('button', { name: 'Add a finding' }).waitFor()
  await page.waitForTimeout(3000)
  for (const [name, target] of TAPS) {
    await page.evaluate(() => (globalThis.taps = []))
    await target(page).first().click()
    await page.waitForTimeout(900)
    taken.get(name).push(await page.evaluate(() => Math.max(0, ...globalThis.taps)))
  }
  await fresh.close()
}
for (const [name, times] of taken) console.log(`${name}, ${median(times)}, ${Math.max(...times)}`)
await browser.close()
await server.kill('SIGTERM')
