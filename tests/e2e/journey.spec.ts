import { expect, test, type Locator, type Page } from '@playwright/test'
import { sign } from './pages'
import { Server } from './server.mjs'

const server = new Server()
test.beforeAll(async () => void (await server.start()))
test.afterAll(() => server.kill())

async function signIn(page: Page) {
  await page.goto(server.url)
  await page.getByLabel('PIN').fill('2468')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('heading', { name: 'Floor' })).toBeVisible()
}

/** Opens the list of all students, where it is not open. */
async function everyone(page: Page) {
  const fold = page.locator('details').filter({ hasText: 'Everyone' }).first()
  if (!(await fold.evaluate((one: HTMLDetailsElement) => one.open))) await page.getByText('Everyone', { exact: true }).click()
}

test('from a free booth to a signed decision that outlives the server', async ({ page }) => {
  await signIn(page)

  // Start a coupon of the pipe test under test rules.
  // Her class may not meet on the day of the test.
  await everyone(page)
  await page.getByRole('button', { name: 'Start a coupon for Noor Haddix' }).first().click()
  await page.getByRole('button', { name: 'As under test, unaided' }).click()
  await page.getByRole('button', { name: 'Start the coupon' }).click()
  await expect(page.getByRole('heading', { name: /Root opening \(gap\) at 12/ }).or(page.getByText(/Root opening \(gap\) at 12/))).toBeVisible()
  const address = page.url()

  // The fit-up: one gap is measured too tight, and the advice says what to do.
  await page.getByRole('button', { name: 'Root opening (gap) 1/16 in' }).click()
  await page.getByRole('button', { name: 'Root face (land) 3/32 in' }).click()
  await page.locator('[data-dimension=rootOpeningMm]').click()
  await page.getByLabel(/Root opening \(gap\), typed/).fill('3/64')
  await page.getByLabel(/Root opening \(gap\), typed/).press('Enter')
  await page.getByRole('button', { name: 'Rest as drawn everywhere' }).click()
  await page.getByRole('button', { name: '4 tacks' }).click()
  await page.getByRole('button', { name: 'Feathered' }).click()
  for (const yes of await page.getByRole('button', { name: /^Yes:/ }).all()) await yes.click()
  await page.getByRole('button', { name: 'Record the fit-up' }).click()
  await expect(page.getByText('Mend before an arc is struck')).toBeVisible()
  await expect(page.getByText(/Too tight: the root will not penetrate/)).toBeVisible()
  await page.locator('[data-dimension=rootOpeningMm]').click()
  await page.getByRole('button', { name: 'Root opening (gap) 3/32 in' }).click()
  await page.getByRole('button', { name: 'Record the fit-up' }).click()
  await expect(page.getByRole('tab', { name: /^Root/ })).toHaveAttribute('aria-selected', 'true')

  // Tap the beads, the first with five amps more; take one back and lay it again by keyboard.
  await page.getByRole('button', { name: / A: settings$/ }).click()
  await page.getByRole('button', { name: 'More Amps' }).click()
  const beads = page.locator('[data-bead]')
  const count = await beads.count()
  expect(count).toBe(8)
  // Under the rules of a test the hold points come first: before the root, over it, and before the cap.
  const seen = page.getByRole('button', { name: 'Seen, go on' })
  for (let index = 0; index < count; index++) {
    if ([0, 1, 6].includes(index)) {
      await seen.click()
      await expect(seen).toHaveCount(0)
    }
    await beads.nth(index).click()
    await expect(beads.nth(index)).toHaveAttribute('aria-pressed', 'true')
  }
  // The bead is shown as laid at once, its notice comes with the server's answer.
  await expect(page.getByText('Cap, layer 5, bead 2 logged clean')).toBeVisible()
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click()
  await expect(beads.nth(count - 1)).toHaveAttribute('aria-pressed', 'false')
  await beads.nth(count - 1).focus()
  await page.keyboard.press('Enter')
  await expect(beads.nth(count - 1)).toHaveAttribute('aria-pressed', 'true')

  // A finding at its place; the limit that decides is shown as soon as the size is chosen.
  await page.getByRole('button', { name: "6:00 o'clock" }).click()
  await page.getByRole('button', { name: 'Undercut' }).click()
  await page.getByRole('button', { name: 'Depth 3/64 in' }).click()
  await expect(page.getByText('Depth 3/64 in; the limit is 1/32 in.')).toBeVisible()
  await page.getByRole('button', { name: 'Keep this finding' }).click()

  await page.getByRole('tab', { name: 'Look and close' }).click()
  await expect(page.getByText('without it')).toBeVisible()
  // The finding comes back with the server's answer, above the button, which moves down by it.
  await expect(page.getByRole('button', { name: 'Take back Undercut' })).toBeVisible()
  await page.getByRole('button', { name: 'Close with this verdict' }).click()
  await expect(page.getByText(/Closed by Greta Lindqvist-Moe/)).toBeVisible()

  // Decide, with a reason.
  await page.getByRole('link', { name: /Decide for Noor/ }).click()
  await expect(page.getByRole('radio', { name: 'Practise first' })).toBeChecked()
  await page.getByRole('radio', { name: 'Test now' }).click()
  await page.getByRole('button', { name: 'Sign: test now' }).click()
  await expect(page.getByText('Say why you decide otherwise than advised.')).toBeVisible()
  await page.getByRole('radio', { name: 'Practise first' }).click()
  await page.getByLabel(/^Reason/).fill('The cap undercuts at six. Two more coupons.')
  await page.getByRole('button', { name: 'Sign: practise first' }).click()
  await sign(page, '1111')
  await expect(page.getByText('That is not your PIN.')).toBeVisible()
  await sign(page)
  await page.getByText('What was said before').click()
  const reason = page.getByText('The cap undercuts at six. Two more coupons.')
  await expect(reason).toBeVisible()

  // Killed without warning and started again: all of it is there, under the same deep links.
  await server.kill('SIGKILL')
  await server.start()
  await page.reload()
  await page.getByText('What was said before').click()
  await expect(reason).toBeVisible()

  // Taken back with a reason, it stays in the history.
  await page.getByRole('button', { name: 'Take back', exact: true }).click()
  await page.getByRole('button', { name: 'Take back', exact: true }).click()
  await expect(page.getByText('Say why it is taken back.')).toBeVisible()
  await page.getByLabel('Why it is taken back').fill('Signed for the wrong one.')
  await page.getByRole('button', { name: 'Take back', exact: true }).click()
  await sign(page)
  await expect(page.getByText(/Taken back by Greta Lindqvist-Moe, .*: Signed for the wrong one\./)).toBeVisible()
  await expect(reason).toBeVisible()
  await page.goto(address)
  await expect(page.getByText(/Closed by Greta Lindqvist-Moe/)).toBeVisible()
  await expect(page.locator('[data-bead][aria-pressed=true]')).toHaveCount(8)
})

test('a pass is logged clean from the floor in one tap and taken back in another', async ({ page }) => {
  await signIn(page)
  const booth = page.getByRole('listitem').filter({ hasText: 'Priya Venn' })
  await expect(booth.getByRole('img', { name: '3 of 8 beads laid' })).toBeVisible()
  await booth.getByRole('button', { name: /^Log .* clean$/ }).click()
  await expect(booth.getByRole('img', { name: '4 of 8 beads laid' })).toBeVisible()
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(booth.getByRole('img', { name: '3 of 8 beads laid' })).toBeVisible()
})

test('a plate coupon takes its findings on the strip, and lengths are shown in millimetres when asked', async ({ page }) => {
  await signIn(page)
  await page.getByRole('link', { name: /^Priya Venn P8/ }).first().click()
  await page.getByRole('button', { name: /: units, theme/ }).click()
  await page.getByRole('button', { name: 'mm, °C' }).click()
  await page.keyboard.press('Escape')
  await page.locator('[data-place="5"]').click()
  await expect(page.getByText(/^69\.[89] mm$/)).toBeVisible()
  await page.getByRole('button', { name: 'Incomplete fusion' }).click()
  // Found in the fill it lies inside: no eye decides, a bend or a film does.
  await expect(page.getByText(/It lies inside: only a bend/)).toBeVisible()
  await page.getByRole('button', { name: 'Keep this finding' }).click()
  await expect(page.getByRole('img', { name: /Incomplete fusion, fill/ })).toBeVisible()
  // The units go with the person: whoever comes next reads inches again.
  await page.request.put(`${server.url}/api/session/likes`, { data: { language: null, units: 'in' } })
})

/** Counts taps as a thumb makes them: nothing else is used to get there. */
function thumb(page: Page) {
  let taps = 0
  return {
    tap: async (target: Locator) => {
      await target.click()
      taps++
    },
    taps: () => taps,
  }
}

const openCoupon = async (page: Page, name: string) => {
  const floor = await (await page.request.get(`${server.url}/api/floor`)).json()
  return floor.students.find((student: { name: string }) => student.name === name).open.id as string
}

test('what is logged while the server is gone is kept, outlives the page, and arrives once and in order', async ({ page, context }) => {
  await signIn(page)
  const id = await openCoupon(page, 'Emeka Strand')
  await page.goto(`${server.url}/coupons/${id}`)
  await expect(page.getByRole('button', { name: /^Log .* clean$/ })).toBeVisible()
  const before = (await (await page.request.get(`${server.url}/api/coupons/${id}`)).json()).beads.filter((bead: { pass: unknown }) => bead.pass).length

  await server.kill()
  await page.getByRole('button', { name: /^Log .* clean$/ }).click()
  await expect(page.getByText('1 entry waits on this tablet')).toBeVisible()
  await page.getByRole('button', { name: /^Log .* clean$/ }).click()
  await expect(page.getByText('2 entries wait on this tablet')).toBeVisible()
  await expect(page.getByText(`${before + 2} of 8`)).toBeVisible() // shown as laid meanwhile
  await page.close()

  await server.start()
  const again = await context.newPage()
  await again.goto(`${server.url}/coupons/${id}`)
  await expect(again.getByText(`${before + 2} of 8`)).toBeVisible()
  await expect(again.getByText(/on this tablet/)).toHaveCount(0)
  // The page counts what is on its way as laid; the server has it a moment later, and no more of it.
  const laid = async () =>
    (await (await again.request.get(`${server.url}/api/coupons/${id}`)).json()).beads.filter((bead: { pass: unknown }) => bead.pass).length
  await expect.poll(laid).toBe(before + 2)
})

test('a server in trouble keeps the pass on the tablet, a refusal is told, and a session that ended is signed in again in place', async ({ page }) => {
  await signIn(page)
  const id = await openCoupon(page, 'Emeka Strand')
  await page.goto(`${server.url}/coupons/${id}`)
  const laid = async () => (await (await page.request.get(`${server.url}/api/coupons/${id}`)).json()).beads.filter((bead: { pass: unknown }) => bead.pass).length
  await expect(page.getByRole('button', { name: /^Log .* clean$/ })).toBeVisible()
  const before = await laid()
  let status = 500
  await page.route('**/passes/*', (route) =>
    status
      ? route.fulfill({ status, contentType: 'application/problem+json', body: JSON.stringify({ title: `Trouble ${status}.` }) })
      : route.continue(),
  )
  await page.getByRole('button', { name: /^Log .* clean$/ }).click()
  for (status of [500, 507, 429, 408]) await expect(page.getByText(`1 entry waits on this tablet. Trouble ${status}.`)).toBeVisible()
  status = 0
  await expect(page.getByText(/on this tablet/)).toHaveCount(0)
  expect(await laid()).toBe(before + 1)

  // It may stand before a hold point by now: under the rules of a test that is answered first.
  await expect(page.getByText(`${before + 1} of 8`)).toBeVisible()
  const seen = page.getByRole('button', { name: 'Seen, go on' })
  if (await seen.isVisible()) await seen.click()
  await expect(seen).toHaveCount(0)
  status = 401
  await page.getByRole('button', { name: /^Log .* clean$/ }).click()
  await expect(page.getByText('1 entry waits on this tablet until somebody signs in.')).toBeVisible()
  status = 0
  await page.getByLabel('PIN').fill('2468')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByText('Your session has ended')).toHaveCount(0)
  await expect(page.getByText(/on this tablet/)).toHaveCount(0)
  await expect(page.getByText(`${before + 2} of 8`)).toBeVisible()
  expect(page.url()).toContain(id)
  expect(await laid()).toBe(before + 2)

  // As it was, for those who come after.
  const { beads } = await (await page.request.get(`${server.url}/api/coupons/${id}`)).json()
  for (const bead of beads.filter((one: { pass: unknown }) => one.pass).slice(before))
    await page.request.delete(`${server.url}/api/coupons/${id}/passes/${bead.pass.id}`)
})

test('a student is added fresh each time, a likely double is asked about, changed, leaves and comes back', async ({ page }) => {
  await signIn(page)
  await page.getByRole('button', { name: 'Add a student' }).click()
  await page.getByLabel('Name').fill('noor  hadix')
  await page.getByRole('button', { name: 'Left hand' }).click()
  await page.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(page.getByText('Noor Haddix is in the Evening class already.')).toBeInViewport()
  await page.getByRole('button', { name: 'Yes, add noor hadix' }).click()
  await expect(page.getByText('noor hadix is on the floor.')).toBeVisible()
  await page.getByRole('button', { name: 'Add a student' }).click()
  await expect(page.getByLabel('Name')).toHaveValue('')
  await expect(page.getByRole('button', { name: 'Right hand' })).toHaveAttribute('aria-pressed', 'true')
  await page.keyboard.press('Escape')

  await everyone(page)
  await page.getByRole('link', { name: 'noor hadix' }).first().click()
  await page.getByRole('button', { name: 'Change' }).click()
  await page.getByLabel('Name').fill('Noor Hadix-Brandt')
  await page.getByLabel('Note').fill('Shoulder: no overhead this week')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('heading', { name: 'Noor Hadix-Brandt' })).toBeVisible()
  await expect(page.getByText('Shoulder: no overhead this week')).toBeVisible()
  await page.getByRole('button', { name: 'Change' }).click()
  await page.getByRole('button', { name: 'Has left the school' }).click()
  await expect(page.getByText(/^Left on/)).toBeVisible()
  await expect(page.getByRole('button', { name: 'Start a coupon' })).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click()
  await expect(page.getByText('Noor Hadix-Brandt is back on the floor.')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Start a coupon' })).toBeVisible()

  // Who has left takes along what is kept, and is erased under a PIN: what the tablet had read goes with it.
  await page.getByRole('button', { name: 'Change' }).click()
  await page.getByRole('button', { name: 'Has left the school' }).click()
  await expect(page.getByText(/^Left on/)).toBeVisible()
  await page.getByRole('button', { name: 'Change' }).click()
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'All that is kept of Noor Hadix-Brandt' }).click(),
  ])
  expect(file.suggestedFilename()).toMatch(/^student-.*\.json$/)
  await page.evaluate(async () => (await caches.open('gradus-read')).put('/api/floor', new Response('Noor')))
  await page.getByRole('button', { name: 'Erase name and photos' }).click()
  await sign(page, '0000')
  await expect(page.getByText(/That is not your PIN/)).toBeVisible()
  await sign(page)
  await expect(page.getByText(/^Erased on/)).toBeVisible()
  await expect(page.getByRole('heading', { name: /^Erased student/ })).toBeVisible()
  await expect(page.getByText('Shoulder')).toHaveCount(0)
  await expect(page.getByRole('button', { name: 'Change' })).toHaveCount(0)
  expect(await page.evaluate(async () => (await (await caches.match('/api/floor'))?.text()) ?? '')).not.toBe('Noor')
})

test('two people on one bead: both are kept, shown side by side, and one is chosen', async ({ page }) => {
  // This tablet hears of nothing: else its bench goes on to the next bead as soon as the other has logged this one.
  await page.route('**/api/floor/events', (route) => route.abort())
  await signIn(page)
  const id = await openCoupon(page, 'Dev Pillai')
  await page.goto(`${server.url}/coupons/${id}`)
  await expect(page.getByRole('button', { name: /^Log .* clean$/ })).toBeVisible()
  const view = await (await page.request.get(`${server.url}/api/coupons/${id}`)).json()
  const card = view.cards[view.beads.find((bead: { key: string }) => bead.key === view.next.beadKey).card]
  const { process, electrodeClass, diameterMm, polarity, technique, progression, hand } = card
  await page.request.put(`${server.url}/api/coupons/${id}/passes/019a0000-0000-7000-8000-00000000abcd`, {
    data: { beadKey: view.next.beadKey, process, electrodeClass, diameterMm, polarity, technique, progression, hand, amps: 99 },
  })
  await page.getByRole('button', { name: /^Log .* clean$/ }).click()
  await page.getByRole('button', { name: 'Settle 1' }).click()
  await expect(page.getByRole('dialog').getByText('99 A')).toBeVisible()
  await page.getByRole('button', { name: 'Keep yours' }).click()
  await expect(page.getByText('Everything is on the server.')).toBeVisible()
  const kept = (await (await page.request.get(`${server.url}/api/coupons/${id}`)).json()).beads.find((bead: { key: string }) => bead.key === view.next.beadKey)
  expect(kept.pass.amps).toBe(card.amps)
})

test('taps on a tablet: a clean pass from the floor, a pass with a finding, a whole fit-up', async ({ page }) => {
  await page.setViewportSize({ width: 820, height: 1180 })
  await signIn(page)
  const clean = thumb(page)
  await clean.tap(page.getByRole('listitem').filter({ hasText: 'Emeka Strand' }).getByRole('button', { name: /clean/ }))
  await expect(page.getByText(/logged clean/)).toBeVisible()
  expect(clean.taps()).toBe(1)

  await page.goto(`${server.url}/coupons/${await openCoupon(page, 'Emeka Strand')}`)
  // Pores are among the usual ones of every stage.
  const finding = thumb(page)
  await finding.tap(page.getByRole('button', { name: /^Log .* clean$/ }))
  await finding.tap(page.getByRole('button', { name: "3:00 o'clock" }))
  await finding.tap(page.getByRole('button', { name: 'Porosity' }))
  await finding.tap(page.getByRole('button', { name: 'Diameter 1/16 in' }))
  await finding.tap(page.getByRole('button', { name: 'Keep this finding' }))
  await expect(page.getByText('Porosity recorded.')).toBeVisible()
  expect(finding.taps()).toBeLessThanOrEqual(5)

  const { students } = await (await page.request.get(`${server.url}/api/floor`)).json()
  const pipe = '019a0000-0000-7000-8000-0000000000f1'
  const studentId = students.find((student: { open: unknown }) => !student.open).id
  await page.request.put(`${server.url}/api/coupons/${pipe}`, { data: { studentId, testId: 'R3', asTest: false } })
  await page.goto(`${server.url}/coupons/${pipe}`)
  await expect(page.getByText('Before an arc is struck')).toBeVisible()
  const points = page.getByRole('group', { name: 'Measured at' }).getByRole('button')
  const fitUp = thumb(page)
  for (let point = 0; point < (await points.count()); point++) {
    if (point > 0) await fitUp.tap(points.nth(point))
    await fitUp.tap(page.getByRole('button', { name: 'Root opening (gap) 3/32 in' }))
    await fitUp.tap(page.getByRole('button', { name: /^Rest as drawn at/ }))
    await fitUp.tap(page.locator('[data-dimension=rootOpeningMm]'))
  }
  await fitUp.tap(page.getByRole('button', { name: '3 tacks' }))
  await fitUp.tap(page.getByRole('button', { name: 'Feathered' }))
  for (const yes of await page.getByRole('button', { name: /^Yes:/ }).all()) await fitUp.tap(yes)
  await fitUp.tap(page.getByRole('button', { name: 'Record the fit-up' }))
  await expect(page.getByText('Fit-up recorded: go.')).toBeVisible()
  expect(fitUp.taps()).toBeLessThanOrEqual(24)
})

test('a hold point calls the instructor on the floor and is answered in one tap', async ({ page }) => {
  await signIn(page)
  await page.goto(`${server.url}/coupons/${await openCoupon(page, 'Ines Halvorsen')}`)
  await page.getByText('Calls', { exact: true }).click()
  await page.getByRole('button', { name: 'Call the instructor: Root' }).click()
  await page.getByText('Timers', { exact: true }).click()
  await page.getByRole('button', { name: 'Cool', exact: true }).click()
  await page.getByRole('button', { name: '5 min', exact: true }).click()
  await page.goto(server.url)
  await expect(page.getByRole('timer', { name: 'Cool' })).toBeVisible() // survives the page, and stands on the floor
  await page.getByRole('button', { name: 'Ines Halvorsen, Root: go on' }).click()
  await expect(page.getByRole('button', { name: 'Ines Halvorsen, Root: go on' })).toHaveCount(0)
})

test('the palette finds a student and a stamp by keyboard alone', async ({ page }) => {
  await signIn(page)
  await page.keyboard.press('/')
  await page.getByLabel(/Find a student/).fill('oksana')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Oksana Dral' })).toBeVisible()
})

test('a photo from the camera is kept with the coupon', async ({ page }) => {
  await signIn(page)
  await page.goto(`${server.url}/coupons/${await openCoupon(page, 'Priya Venn')}`)
  await page.getByRole('tab', { name: 'Look and close' }).click()
  const dot = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64')
  await page.getByLabel('Photo', { exact: true }).setInputFiles({ name: 'root.png', mimeType: 'image/png', buffer: dot })
  await expect(page.getByRole('img', { name: /Photo by Greta/ })).toBeVisible()
  await page.getByLabel('Photo', { exact: true }).setInputFiles({ name: 'root.png', mimeType: 'image/png', buffer: Buffer.from('not a picture') })
  await expect(page.getByText(/A JPEG, PNG or WebP photo/)).toBeVisible()
})

test('the small things of a bench: a tack at its place, where a pass stopped, a finding there, both sides of the root, a broken specimen, who did what', async ({ page }) => {
  await signIn(page)
  const { students } = await (await page.request.get(`${server.url}/api/floor`)).json()
  const id = '019a0000-0000-7000-8000-0000000000f2'
  const studentId = students.find((student: { open: unknown }) => !student.open).id
  await page.request.put(`${server.url}/api/coupons/${id}`, { data: { studentId, testId: 'R3', asTest: false } })
  await page.goto(`${server.url}/coupons/${id}`)

  // Tacks one by one on the ring: the second is a bridge, the third longer than the others.
  for (const clock of ['12:00', '4:00', '8:00']) await page.getByRole('button', { name: `${clock} o'clock` }).click()
  const tacks = page.getByRole('group', { name: 'Each tack' }).getByRole('button')
  await page.getByRole('button', { name: 'Tack length at 8 1 in' }).click()
  await page.getByRole('button', { name: "4:00 o'clock" }).click()
  await page.getByRole('button', { name: 'Bridged' }).click()
  await expect(tacks).toHaveText(['12: 1/2 in, feathered', '4: 1/2 in, bridged', '8: 1 in, feathered', 'Remove this tack'])
  await page.getByRole('button', { name: 'Record what is measured so far' }).click()
  await expect(page.getByText('Fit-up recorded')).toBeVisible()

  // A hold point answered at the step; a pass with another rod that stopped at five; a finding at that stop.
  await page.getByRole('tab', { name: /^Root/ }).click()
  await page.getByRole('button', { name: 'Seen, go on' }).click()
  await expect(page.getByText(/^Before this pass/)).toHaveCount(0)
  await page.getByText('Settings', { exact: true }).click()
  await page.getByText('Depth, heat, start and stop').click()
  await page.getByLabel('Rod or wire').selectOption('E6011')
  await page.getByRole('combobox', { name: /^Size/ }).selectOption({ label: '5/32 in' })
  await page.getByRole('button', { name: 'Stopped at…' }).click()
  await page.getByRole('button', { name: "5:00 o'clock" }).click()
  await expect(page.getByRole('button', { name: "Stopped at 5:00 o'clock" })).toBeVisible()
  await page.getByRole('button', { name: /^Log .* clean$/ }).click()
  await expect(page.getByText(/logged clean/)).toBeVisible()
  const [bead] = (await (await page.request.get(`${server.url}/api/coupons/${id}`)).json()).beads
  expect(bead.pass).toMatchObject({ electrodeClass: 'E6011', diameterMm: 25.4 * (5 / 32), stopAt: '5:00' })
  await page.getByRole('button', { name: 'Add a finding' }).click()
  await page.getByRole('button', { name: /^Stop of root/ }).click()
  await page.getByRole('button', { name: 'Slag inclusion' }).click()
  await page.getByRole('button', { name: 'Length 1/4 in' }).click()
  await page.getByRole('button', { name: 'Keep this finding' }).click()
  await expect(page.getByText(/recorded/).first()).toBeVisible()

  await page.getByRole('tab', { name: 'Look and close' }).click()
  await page.getByRole('button', { name: 'Root, right', exact: true }).click()
  await page.getByRole('button', { name: 'Root, right at 12: flush' }).click()
  await expect(page.getByText('Measured of 4 places: face 0; root, left 0; root, right 1.')).toBeVisible()
  const specimens = page.getByRole('region', { name: 'Specimens' })
  await specimens.getByRole('button').first().click()
  await specimens.getByRole('button', { name: 'Opened 1/16 in' }).click()
  await specimens.getByRole('button', { name: 'Opened 1/4 in' }).click()
  await specimens.getByRole('button', { name: 'Keep it with 2 seen' }).click()
  await expect(specimens.getByRole('button', { name: 'side 1:30 Reject' })).toBeVisible()
  await page.getByText('Who did what').click()
  await expect(page.getByText('Fit-up and position seen: go on.')).toBeVisible()
})

test('the board leads to the decision; a gate taken away holds, and a changed policy weighs anew', async ({ page }) => {
  await signIn(page)
  await page.getByRole('link', { name: 'Ready', exact: true }).click()
  const row = page.getByRole('link', { name: /^Leila Farrow, P8: Ready: test now\./ })
  const why = (await row.getAttribute('aria-label'))!.replace(/^.*?test now\. /, '')
  await row.click()
  await expect(page.getByRole('heading', { name: 'Ready: test now' })).toBeVisible()
  await expect(page.getByText(why).first()).toBeVisible() // the same sentence
  await expect(page.getByText(/Nine times in ten the truth is between/)).toBeVisible()
  await page.getByText('Coupons behind this').click()
  await expect(page.getByText(/Over \d+ coupons the chance went from/)).toBeVisible()
  await page.getByText('The coupons that moved it').click()
  await expect(page.getByRole('cell', { name: /full, as under test, clean/ }).first()).toBeVisible()
  await page.getByText('Behind the number').click()
  await expect(page.getByText(/By this test alone: \d+ of \d+ coupons clean/)).toBeVisible()

  await page.getByText('School’s rules').click()
  await page.getByRole('button', { name: 'Take back' }).click()
  await expect(page.getByRole('heading', { name: 'Sign off safety first' })).toBeVisible()
  await page.getByRole('button', { name: 'Sign off safety' }).click()
  await expect(page.getByRole('heading', { name: 'Ready: test now' })).toBeVisible()

  await page.getByRole('link', { name: 'Change the rules for P8' }).click()
  await page.getByLabel('Chance of passing, at least').fill('0.97')
  await page.getByLabel('Lower end of its 90 % band, at least').fill('0.98')
  await page.getByRole('button', { name: 'Save the policy' }).click()
  await expect(page.getByText('Not over the bar for the mean.').first()).toBeVisible()
  await page.getByLabel('Lower end of its 90 % band, at least').fill('0.5')
  await page.getByRole('button', { name: 'Save the policy' }).click()
  await expect(page.getByText('Policy saved')).toBeVisible()
  await page.goBack()
  await expect(page.getByRole('heading', { name: 'Change what is practised' })).toBeVisible()

  await page.getByText('How the sitting came out').first().click()
  const came = page.getByRole('region', { name: 'How the sitting came out' })
  await came.getByLabel('Note, if any').fill('Bends without a mark')
  await came.getByRole('button', { name: 'Passed', exact: true }).click()
  await expect(came.getByText(/passed; said before: \d+\s%\. Bends without a mark/)).toBeVisible()
  await expect(page.getByRole('heading', { name: /^Passed \d+ \w+$/ })).toBeVisible()
  await page.goto(`${server.url}/ready/record`)
  const sat = page.getByText(/of \d+ first sittings were passed/)
  const before = Number((await sat.innerText()).match(/of (\d+) first sittings/)![1])
  await page.getByRole('button', { name: /^Take back the result of Leila Farrow, P8/ }).click()
  await expect(page.getByText(new RegExp(`of ${before - 1} first sittings were passed`))).toBeVisible()
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click()
  await expect(page.getByText(new RegExp(`of ${before} first sittings were passed`))).toBeVisible()

  await page.getByRole('link', { name: 'Learn' }).click()
  await page.getByRole('button', { name: 'Evening class' }).click()
  await expect(page.getByText(/^Rejected: \d+ of \d+ coupons in the first/)).toBeVisible()
  await expect(page.getByText(/closed coupons were rejected/)).toBeVisible()
})
