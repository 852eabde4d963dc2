import { expect, test, type Page } from '@playwright/test'
import { enter } from './pages'
import { Server } from './server.mjs'

const server = new Server()
test.beforeAll(async () => void (await server.start()))
test.afterAll(() => server.kill())

type Floor = {
  today: string
  period: number
  students: { id: string; name: string; open: { id: string } | null }[]
}

async function signIn(page: Page): Promise<Floor> {
  await enter(server.url, page)
  return (await page.request.get(`${server.url}/api/floor`)).json()
}

const mondayOf = (day: string) => {
  const date = new Date(`${day}T00:00:00Z`)
  return new Date(date.getTime() - ((date.getUTCDay() + 6) % 7) * 86_400_000).toISOString().slice(0, 10)
}

test('the week is planned, accepted, changed by hand and by keyboard, and taken back', async ({ page }) => {
  await signIn(page)
  await page.goto(`${server.url}/plan`)
  await page.getByRole('button', { name: 'The week after' }).click()
  await page.getByRole('button', { name: 'Plan the week' }).click()
  await expect(page.getByText('Proposed:')).toBeVisible()
  await expect(page.getByText(/the best there is|% of the best/)).toBeVisible()
  await page.getByRole('button', { name: 'Accept' }).click()
  await expect(page.getByText('The week is the plan now.')).toBeVisible()

  const board = page.locator('[data-board]')
  const cell = board.locator('tr', { hasText: 'Ines Halvorsen' }).getByRole('button', { name: /whole|Full coupon|only/ }).first()
  await cell.click()
  const panel = page.getByRole('region', { name: 'Cell' })
  await expect(panel.getByText(/% to the chance, costs/)).toBeVisible()
  await panel.getByRole('button', { name: 'Pin', exact: true }).click()
  await expect(panel.getByRole('button', { name: 'Pinned' })).toHaveAttribute('aria-pressed', 'true')

  await panel.getByRole('button', { name: 'Absent' }).click()
  await expect(panel.getByRole('button', { name: 'Absent: comes after all' })).toBeVisible()
  await expect(page.getByText('Ines Halvorsen is absent.')).toBeVisible()
  await expect(page.getByText('One place is lost.')).toBeVisible()
  await page.getByRole('button', { name: 'Plan again, fewest moves' }).click()
  await expect(page.getByRole('alert')).toContainText('does not come then')
  await page.getByRole('button', { name: 'Leave the old plan' }).click()
  await panel.getByRole('button', { name: 'Absent: comes after all' }).click()
  await page.getByRole('button', { name: 'By booth' }).click()
  await expect(board.getByRole('button', { name: /^Booth 8, .*Ines Halvorsen|^Booth \d+, .*Ines Halvorsen/ }).first()).toBeVisible()
})

test('an item is given by hand, moved with the keyboard, and moved back', async ({ page }) => {
  await signIn(page)
  await page.goto(`${server.url}/plan`)
  for (let weeks = 0; weeks < 3; weeks++) await page.getByRole('button', { name: 'The week after' }).click()
  await expect(page.getByText('Nothing is planned yet for this week.')).toBeVisible()
  const row = page.locator('[data-board] tr', { hasText: 'Dev Pillai' })
  await row.getByRole('button', { name: /: free$/ }).first().click()
  await page.getByRole('region', { name: 'Cell' }).getByRole('button', { name: /% an hour/ }).first().click()
  const given = row.getByRole('button', { name: /booth \d+$/ })
  await expect(given).toHaveCount(1)
  const before = await given.getAttribute('aria-label')
  await given.press('Alt+ArrowRight')
  await expect(page.getByText('Moved.')).toBeVisible()
  await expect(row.getByRole('button', { name: before!, exact: true })).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(row.getByRole('button', { name: before!, exact: true })).toBeVisible()
})

test('a cell is dragged to another period, and a booth that is out is said with what it costs', async ({ page }) => {
  await signIn(page)
  await page.goto(`${server.url}/plan`)
  for (let weeks = 0; weeks < 4; weeks++) await page.getByRole('button', { name: 'The week after' }).click()
  await expect(page.getByText('Nothing is planned yet for this week.')).toBeVisible()
  const row = page.locator('[data-board] tr', { hasText: 'Callum Wight' }).first()
  await row.getByRole('button', { name: /: free$/ }).first().click()
  await page.getByRole('region', { name: 'Cell' }).getByRole('button', { name: /% an hour/ }).first().click()
  await expect(row.getByRole('button', { name: /booth \d+$/ })).toHaveCount(1)
  await page.getByRole('button', { name: 'Close', exact: true }).click()
  await expect(page.getByRole('region', { name: 'Cell' })).toHaveCount(0)
  const from = row.getByRole('button', { name: /booth \d+$/ }).first()
  const label = (await from.getAttribute('aria-label'))!
  const free = row.getByRole('button', { name: /: free$/ }).first()
  const when = (await free.getAttribute('aria-label'))!.replace(/: free$/, '')
  const [start, end] = [(await from.boundingBox())!, (await free.boundingBox())!]
  await page.mouse.move(start.x + 30, start.y + 20)
  await page.mouse.down()
  await page.mouse.move(start.x + 60, start.y + 20, { steps: 4 })
  await page.mouse.move(end.x + 30, end.y + 20, { steps: 8 })
  await page.mouse.up()
  await expect(page.getByText('Moved.')).toBeVisible()
  await expect(row.getByRole('button', { name: new RegExp(`^${when}: .*booth \\d+$`) })).toBeVisible()
  await expect(row.getByRole('button', { name: label, exact: true })).toHaveCount(0)
  // A tap is no drag: it opens the cell.
  await row.getByRole('button', { name: new RegExp(`^${when}: .*booth \\d+$`) }).click()
  await expect(page.getByRole('region', { name: 'Cell' })).toBeVisible()

  const number = /booth (\d+)$/.exec((await row.getByRole('button', { name: new RegExp(`^${when}: `) }).getAttribute('aria-label'))!)![1]
  const floor = await (await page.request.get(`${server.url}/api/floor`)).json()
  const booth = floor.booths.find((one: { number: number }) => one.number === Number(number))
  await page.request.put(`${server.url}/api/booths/${booth.id}/closed`, { data: { why: 'the gas hose leaks' } })
  await expect(page.getByText(`Booth ${number} is out: the gas hose leaks.`)).toBeVisible()
  await page.getByRole('button', { name: 'Plan again, fewest moves' }).click()
  await page.getByRole('button', { name: 'Accept' }).click()
  await expect(page.getByRole('button', { name: 'Plan the week' })).toBeVisible()
  await expect(page.getByText(/is out: the gas hose leaks/)).toHaveCount(0)

  // The cards that hang in the booths say what to weld with, and what comes first.
  await page.getByRole('link', { name: 'Print' }).click()
  const card = page.getByRole('region', { name: /^Callum Wight, / }).first()
  await expect(card.getByRole('row', { name: /^Root .*FCAW-S.* A/ })).toBeVisible()
  await expect(card.getByText('Call before you go on')).toBeVisible()
  await expect(card.getByRole('img', { name: 'Opens the page of Callum Wight' })).toBeVisible()
})

test('what is logged on one screen shows on another, and a planned item starts in one tap', async ({ page, context }) => {
  const floor = await signIn(page)
  const monday = mondayOf(floor.today)
  const idle = floor.students.find((student) => !student.open)!
  await page.request.put(`${server.url}/api/sittings/019a0000-0000-7000-8000-00000000beef`, {
    data: { studentId: idle.id, testId: 'P4', day: floor.today, period: floor.period, despite: 'As agreed.' },
  })
  await page.request.post(`${server.url}/api/weeks/${monday}/solve`, { data: { seconds: 5 } })
  await expect
    .poll(async () => (await (await page.request.get(`${server.url}/api/weeks/${monday}/job`)).json()).state)
    .toBe('done')
  await page.request.post(`${server.url}/api/weeks/${monday}/accept`)

  await page.goto(server.url)
  const other = await context.newPage()
  await other.goto(server.url)
  const booth = other.getByRole('listitem').filter({ hasText: 'Priya Venn' })
  await expect(booth.getByRole('img', { name: '3 of 8 beads laid' })).toBeVisible()
  await page.getByRole('listitem').filter({ hasText: 'Priya Venn' }).getByRole('button', { name: /^Log .* clean$/ }).click()
  await expect(booth.getByRole('img', { name: '4 of 8 beads laid' })).toBeVisible()

  // In its booth, or in a free one when somebody is still at work there.
  await page.getByRole('link', { name: /Sitting: P4/ }).first().click()
  await page.getByRole('button', { name: 'Begin its coupon' }).click()
  await expect(page.getByRole('link', { name: 'Go on at the bench' })).toBeVisible()
  await expect(other.getByRole('listitem').filter({ hasText: idle.name }).getByText('test', { exact: true })).toBeVisible()

  // A booth breaks down in two taps, and opens again.
  await other.getByRole('button', { name: 'Booth 12: more' }).click()
  await other.getByRole('button', { name: 'Broken down' }).click()
  await expect(other.getByText('Broken down', { exact: true })).toBeVisible()
  await other.getByRole('button', { name: 'Booth 12: more' }).click()
  await other.getByRole('button', { name: 'Open it again' }).click()
  await expect(other.getByText('Broken down', { exact: true })).toHaveCount(0)
})

test('a goal becomes a way, stock comes from a file, and a section is sawn', async ({ page }) => {
  await signIn(page)
  await page.goto(`${server.url}/plan/steps`)
  await page.getByRole('combobox').first().selectOption({ label: 'Tobias Okoro' })
  await expect(page.getByRole('heading', { name: 'Tobias Okoro: the way' })).toBeVisible()
  await page.getByRole('button', { name: 'Set the goal' }).click()
  await page.getByRole('group', { name: 'Tests that the job needs' }).getByRole('button', { name: 'R5' }).click()
  await page.getByRole('button', { name: 'Save the goal' }).click()
  await expect(page.getByRole('button', { name: /R5 .*ahead, goal/ })).toBeVisible()

  await page.goto(`${server.url}/plan/stock`)
  await page.getByLabel('Stock in from a file: file').setInputFiles({
    name: 'stock.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('stock,unit,lengthMm,amount\nChalk,each,,12\nChalk,each,,lots\n'),
  })
  await expect(page.getByText('Line 3: bad. The amount is not a number.')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Take in 1 row' })).toBeDisabled()
  const section = page.getByRole('region', { name: 'Pipe NPS 6 schedule 80' })
  await section.getByRole('button', { name: 'Sawn' }).click()
  await expect(page.getByText('Pipe NPS 6 schedule 80: bars out, off-cuts in.')).toBeVisible()
  await expect(page.getByRole('region', { name: 'On the rack and in the store' }).getByText(/off-cut/).first()).toBeVisible()
})
