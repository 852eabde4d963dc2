import { expect, test, type Locator, type Page } from '@playwright/test'
import { enter } from './pages'
import { Server } from './server.mjs'

// Whatever happens to a coupon, logged by thumb on a tablet. Taps are counted where a bound is promised.
const server = new Server()
test.beforeAll(async () => void (await server.start()))
test.afterAll(() => server.kill())
test.use({ viewport: { width: 820, height: 1180 } })

type Coupon = {
  beads: { key: string; stage: string; card: number; pass: { id: string } | null; runs: unknown[] }[]
  cards: Record<string, unknown>[]
  life: { downgraded: boolean }
  verdict: { kind: string; sentence: string }
  findings: { kind: string }[]
  test: { id: string }
  closedAt: string | null
}

/** Counts taps as a thumb makes them: nothing else is used to get there. */
function thumb() {
  let taps = 0
  return {
    tap: async (target: Locator) => {
      await target.click()
      taps++
    },
    taps: () => taps,
  }
}

let number = 0
/** A coupon of its own, and so many of its beads laid. */
async function make(page: Page, testId: string, { asTest = false, laid = 0, drillId = null as string | null } = {}) {
  const { students } = await (await page.request.get(`${server.url}/api/floor`)).json()
  const studentId = students.find((student: { open: unknown; name: string }) => student.name === 'Rosalind Peake').id
  const id = `019a0000-0000-7000-8000-0000000b${String(++number).padStart(4, '0')}`
  expect((await page.request.put(`${server.url}/api/coupons/${id}`, { data: { studentId, testId, asTest, drillId } })).ok()).toBe(true)
  const view = await read(page, id)
  await page.request.put(`${server.url}/api/coupons/${id}/fit-ups/${id.replace('b', 'c')}`, { data: { points: [], tacks: [], answers: {} } })
  for (const bead of view.beads.slice(0, laid)) {
    const { process, electrodeClass, diameterMm, polarity, technique, progression, hand, amps } = view.cards[bead.card]!
    const data = { beadKey: bead.key, process, electrodeClass, diameterMm, polarity, technique, progression, hand, amps }
    expect((await page.request.put(`${server.url}/api/coupons/${id}/passes/${crypto.randomUUID()}`, { data })).ok()).toBe(true)
  }
  await page.goto(`${server.url}/coupons/${id}`)
  return { id, beads: view.beads.length }
}
/** An entry of the coupon's menu. */
async function more(page: Page, name: string) {
  await page.locator('main').getByRole('button', { name: 'More', exact: true }).click()
  await page.getByRole('button', { name }).click()
}

const read = async (page: Page, id: string): Promise<Coupon> => (await page.request.get(`${server.url}/api/coupons/${id}`)).json()

test('a bead is laid in two runs by its sides, in at most six taps from the floor', async ({ page }) => {
  await enter(server.url, page)
  await page.goto(server.url)
  const hand = thumb()
  await hand.tap(page.getByRole('listitem').filter({ hasText: 'Ines Halvorsen' }).getByRole('link', { name: 'Ines Halvorsen' }).first())
  const left = page.getByRole('group', { name: 'Runs of this bead' }).getByRole('button', { name: /^6 to 12 by/ })
  await expect(left).toHaveCount(2)
  await hand.tap(left.first())
  await expect(left).toHaveCount(1)
  await hand.tap(left)
  expect(hand.taps()).toBeLessThanOrEqual(6)
  const id = page.url().split('/').at(-1)!
  await expect.poll(async () => (await read(page, id)).beads.filter((bead) => bead.runs.length === 2 && bead.pass).length).toBe(1)
})

test('one more bead and one less are two taps each, and the verdict follows', async ({ page }) => {
  await enter(server.url, page)
  const { id, beads } = await make(page, 'P8', { laid: 5 })
  const hand = thumb()
  await hand.tap(page.getByText('Beads', { exact: true }))
  await hand.tap(page.getByRole('button', { name: 'One more in this layer' }))
  expect(hand.taps()).toBe(2)
  await expect(page.locator('[data-bead]')).toHaveCount(beads + 1)
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click()
  await expect(page.locator('[data-bead]')).toHaveCount(beads)
  await page.getByRole('button', { name: 'Leave this one out' }).click()
  await expect(page.locator('[data-bead]')).toHaveCount(beads - 1)
  await page.getByRole('button', { name: 'A patch in a low place' }).click()
  await expect(page.locator('[data-bead]')).toHaveCount(beads)
  await expect(page.getByRole('heading', { name: 'Patch 1' })).toBeVisible()
  await page.getByRole('button', { name: /^Log .* clean$/ }).click()
  await expect.poll(async () => (await read(page, id)).beads.some((bead) => bead.key.startsWith('patch') && bead.pass)).toBe(true)
})

test('a repair is looked at again in at most five taps, and a finding is put right where it is seen', async ({ page }) => {
  await enter(server.url, page)
  const { id } = await make(page, 'R3', { laid: 8 })
  const finding = { kind: 'burnThrough', stage: 'root', clock: '5:30' }
  await page.request.put(`${server.url}/api/coupons/${id}/findings/${crypto.randomUUID()}`, { data: finding })
  await page.reload()
  const hand = thumb()
  await hand.tap(page.getByRole('tab', { name: 'Look and close' }))
  await hand.tap(page.getByRole('group', { name: 'Repair of Burn-through' }).getByRole('button', { name: 'Refill' }))
  await hand.tap(page.getByRole('button', { name: 'Sound', exact: true }))
  await expect(page.getByText('Looked at again: sound.')).toBeVisible()
  expect(hand.taps()).toBeLessThanOrEqual(5)
  expect((await read(page, id)).verdict.kind).toBe('accept')

  await page.getByRole('button', { name: 'Correct Burn-through' }).click()
  await page.getByRole('button', { name: /^Slag inclusion/ }).click()
  await page.getByRole('button', { name: 'Put it right', exact: true }).click()
  await expect(page.getByText(/put right\./)).toBeVisible()
  expect((await read(page, id)).findings[0]!.kind).not.toBe('burnThrough')
  await page.getByText('Who did what').click()
  await expect(page.getByText(/^Repair of the burn-through in the root at 5:30 looked at again: sound\.$/)).toBeVisible()
})

test('a bend that comes back on a closed coupon is at most six taps, beside the signed verdict; any tablet opens it again', async ({ page }) => {
  await enter(server.url, page)
  const { id } = await make(page, 'P8', { laid: 7 })
  await page.getByRole('tab', { name: 'Look and close' }).click()
  await page.getByRole('button', { name: 'Close with this verdict' }).click()
  await expect(page.getByRole('alert').getByText(/not laid\. Close it as it stands\?/)).toBeVisible()
  await page.getByRole('button', { name: 'Close it unfinished' }).click()
  await expect(page.getByText(/Closed by/)).toBeVisible()
  await page.reload() // as from another tablet
  const hand = thumb()
  const specimens = page.getByRole('region', { name: 'Specimens' })
  await hand.tap(specimens.getByRole('button').nth(1))
  await hand.tap(specimens.getByRole('button', { name: 'Opened 1/4 in' }))
  await hand.tap(specimens.getByRole('button', { name: 'Keep it with 1 seen' }))
  await expect(page.getByText(/by eye, rejected by root bend 2/).first()).toBeVisible()
  expect(hand.taps()).toBeLessThanOrEqual(6)
  await expect(page.getByRole('list', { name: 'Verdicts, the signed one first' }).getByRole('listitem')).toHaveCount(2)

  await page.getByRole('button', { name: 'Open it again' }).click()
  await page.getByRole('button', { name: 'Something was forgotten' }).click()
  await page.getByRole('tab', { name: 'Look and close' }).click()
  await expect(page.getByRole('button', { name: 'Close with this verdict' })).toBeVisible()
  expect((await read(page, id)).closedAt).toBeNull()
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click()
  await expect(page.getByText(/Closed by/)).toBeVisible()
})

test('a wrong test is put right in at most four taps', async ({ page }) => {
  await enter(server.url, page)
  const { id } = await make(page, 'P8', { laid: 2 })
  const hand = thumb()
  await hand.tap(page.locator('main').getByRole('button', { name: 'More', exact: true }))
  await hand.tap(page.getByRole('button', { name: 'Put right' }))
  await hand.tap(page.getByRole('dialog').getByRole('button', { name: /^P7:/ }))
  await hand.tap(page.getByRole('dialog').getByRole('button', { name: 'Put it right' }))
  await expect(page.getByText('Put right.')).toBeVisible()
  expect(hand.taps()).toBeLessThanOrEqual(4)
  expect((await read(page, id)).test.id).toBe('P7')
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click()
  await expect.poll(async () => (await read(page, id)).test.id).toBe('P8')
})

test('a double tap and a held key are one pass, and keys are silent under a dialog', async ({ page }) => {
  await enter(server.url, page)
  const { id } = await make(page, 'P8')
  const laid = async () => (await read(page, id)).beads.filter((bead) => bead.pass).length
  const log = page.getByRole('button', { name: /^Log .* clean$/ })
  await log.dblclick()
  await expect(page.getByText(/logged clean/)).toHaveCount(1)
  await expect(log).toBeEnabled()
  expect(await laid()).toBe(1)
  await page.keyboard.down('l')
  await page.keyboard.down('l')
  await page.keyboard.down('l')
  await page.keyboard.up('l')
  await expect.poll(laid).toBe(2)
  await expect(log).toBeEnabled()
  await more(page, 'Put right')
  await expect(page.getByRole('dialog')).toBeVisible()
  await page.keyboard.press('l')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await page.getByRole('button', { name: 'Add a finding' }).click()
  await page.keyboard.press('l')
  await page.getByRole('button', { name: 'Leave it out' }).click()
  await expect(log).toBeVisible()
  expect(await laid()).toBe(2)

  // A double tap takes one back, and that is undone like anything else.
  await page.getByRole('button', { name: /^Undo 2/ }).dblclick()
  await expect.poll(laid).toBe(1)
  await expect(page.getByText('taken back.')).toBeVisible()
  expect(await laid()).toBe(1)
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click()
  await expect.poll(laid).toBe(2)
})

test('under the rules of a test what is wanting is asked, and going on anyway is coached work', async ({ page }) => {
  await enter(server.url, page)
  const { id } = await make(page, 'P8', { asTest: true })
  await page.getByRole('button', { name: /^Log .* clean$/ }).click()
  const asks = page.getByRole('alertdialog', { name: 'Before this pass' })
  await expect(asks.getByText('Fit-up: not seen by the instructor yet.')).toBeVisible()
  await asks.getByRole('button', { name: 'Witnessed' }).click()
  await expect(asks.getByText('The position is not witnessed.')).toHaveCount(0)
  await expect(page.getByText('In runs', { exact: true })).toHaveCount(0) // nothing goes past the question
  await asks.getByRole('button', { name: 'Not yet' }).click()
  await expect(asks).toHaveCount(0)
  expect((await read(page, id)).beads.filter((bead) => bead.pass)).toHaveLength(0)
  await page.getByRole('button', { name: /^Log .* clean$/ }).click()
  await asks.getByRole('button', { name: 'Go on anyway: it counts as coached' }).click()
  await expect(page.getByText('It counts as coached work only.')).toBeVisible()
  expect((await read(page, id)).life.downgraded).toBe(true)
})

test('a coupon is given up for a reason in words, and that is taken back', async ({ page }) => {
  await enter(server.url, page)
  await make(page, 'P8', { laid: 1 })
  await more(page, 'Give it up')
  await page.getByRole('button', { name: 'Another reason' }).click()
  await page.getByLabel('The reason').fill('Sawn up for the vice')
  await page.getByRole('button', { name: 'Give it up' }).click()
  await expect(page.getByText('Given up: Sawn up for the vice.')).toBeVisible()
  await page.getByRole('button', { name: 'Take it back' }).first().click()
  await expect(page.getByText('Given up: Sawn up for the vice.')).toHaveCount(0)
})

test('the repair drill is scored by clock point on the page', async ({ page }) => {
  await enter(server.url, page)
  const { id } = await make(page, 'R9', { laid: 1 })
  const hole = crypto.randomUUID()
  await page.request.put(`${server.url}/api/coupons/${id}/findings/${hole}`, { data: { kind: 'burnThrough', stage: 'root', clock: '6:00' } })
  for (const action of ['cool', 'taper', 'refill'])
    await page.request.put(`${server.url}/api/coupons/${id}/events/${crypto.randomUUID()}`, {
      data: { kind: 'repaired', body: { findingId: hole, action } },
    })
  await page.reload()
  await page.getByRole('tab', { name: 'Look and close' }).click()
  const scores = page.getByRole('table', { name: 'Repairs by clock point' })
  await expect(scores.getByRole('row', { name: /6 o'clock Look at it again/ })).toBeVisible()
  await page.getByRole('button', { name: 'Sound', exact: true }).click()
  await expect(scores.getByRole('row', { name: /6 o'clock Sound at try 1\. passed/ })).toBeVisible()
  await expect(scores.getByRole('row', { name: /9 o'clock Not made yet\. open/ })).toBeVisible()
})
