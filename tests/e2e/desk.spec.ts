import { expect, test, type Page } from '@playwright/test'
import { enter, isAccessible } from './pages'
import { Server } from './server.mjs'

// Finding anything, the wall, a finding before it is kept, the look on the drawing, units in pairs, and paper.
const server = new Server()
test.beforeAll(async () => void (await server.start()))
test.afterAll(() => server.kill())

type Student = { id: string; name: string; open: { id: string; stamp: string } | null }

async function signIn(page: Page): Promise<Student[]> {
  await enter(server.url, page)
  return (await (await page.request.get(`${server.url}/api/floor`)).json()).students
}
const benchOf = (students: Student[], name: string) => `${server.url}/coupons/${students.find((one) => one.name === name)!.open!.id}`

test('find goes to a closed coupon by its stamp, to a test by its words, and by the arrow keys; the focus returns', async ({ page }) => {
  const students = await signIn(page)
  const { rows } = await (await page.request.get(`${server.url}/api/students/${students.find((one) => one.name === 'Ines Halvorsen')!.id}/coupons`)).json()
  const closed = rows.find((row: { closedAt: string | null }) => row.closedAt)
  await page.goto(server.url)
  const find = page.getByRole('button', { name: 'Find' })
  await find.click()
  const input = page.getByLabel(/Find a student/)
  await expect(input).toBeFocused()
  await page.keyboard.press('Escape')
  await expect(find).toBeFocused()

  await page.keyboard.press('/')
  await input.fill(closed.stamp.toLowerCase())
  await expect(page.getByRole('option', { name: closed.stamp })).toHaveAttribute('aria-selected', 'true')
  await isAccessible(page)
  await input.press('Enter')
  await expect(page).toHaveURL(new RegExp(`/coupons/${closed.id}`))
  await expect(page.getByRole('dialog')).toHaveCount(0) // until it has faded, keys are still the dialog's

  await page.keyboard.press('Control+k')
  await input.fill('stainless 6g')
  await expect(page.getByRole('option', { name: /R5/ })).toBeVisible()
  await input.press('Enter')
  await expect(page).toHaveURL(/\/library\/R5/)
  await expect(page.getByRole('dialog')).toHaveCount(0)

  await page.keyboard.press('/')
  const finder = page.getByRole('dialog')
  await input.fill('p')
  await expect(finder.getByRole('option').nth(2)).toBeVisible()
  const third = await finder.getByRole('option').nth(2).textContent()
  await input.press('ArrowDown')
  await input.press('ArrowDown')
  await expect(finder.getByRole('option', { selected: true })).toHaveText(third!)
  await input.press('ArrowDown')
  await input.press('ArrowUp')
  await expect(finder.getByRole('option', { selected: true })).toHaveText(third!)
  await input.fill('nobody of that name')
  await expect(page.getByText('Nothing by that name.')).toBeVisible()
  await input.press('Enter')
  await expect(page).toHaveURL(/\/library\/R5/)
})

test('from one coupon straight to another, and from one student to another, nothing goes along', async ({ page }) => {
  const students = await signIn(page)
  const [from, to] = ['Dev Pillai', 'Rosalind Peake'].map((name) => students.find((one) => one.name === name)!) as [Student, Student]
  const find = async (what: string) => {
    await page.keyboard.press('/')
    await page.getByLabel(/Find a student/).fill(what)
    await page.getByRole('option', { name: what }).first().click()
  }
  const id = crypto.randomUUID()
  expect((await page.request.put(`${server.url}/api/coupons/${id}`, { data: { studentId: to.id, testId: 'R3', asTest: false } })).ok()).toBe(true)
  const { stamp, beads, cards } = await (await page.request.get(`${server.url}/api/coupons/${id}`)).json()
  const own = cards[beads.find((bead: { stage: string }) => bead.stage === 'cap').card].amps
  await page.goto(benchOf(students, from.name))
  await page.getByRole('tab', { name: /^Root/ }).click()
  await page.getByRole('tab', { name: /^Cap/ }).click()
  await page.getByRole('button', { name: /A: settings/ }).click()
  const amps = page.getByRole('button', { name: /A: settings/ })
  const before = await amps.textContent()
  await page.getByRole('button', { name: /^More amps/i }).click()
  await expect(amps).not.toHaveText(before!)
  await find(stamp)
  await expect(page.getByRole('heading', { name: new RegExp(stamp) })).toBeVisible()
  await expect(page.getByRole('tab', { name: /^Fit-up/ })).toHaveAttribute('aria-selected', 'true')
  await page.getByRole('tab', { name: /^Cap/ }).click()
  await expect(amps).toHaveText(`${own} A`)

  // What was written for one student is not signed for another.
  await page.goto(`${server.url}/students/${to.id}/decide/R3`)
  await page.getByLabel(/^Reason/).fill('Not theirs.')
  await page.evaluate((path) => {
    const link = document.body.appendChild(document.createElement('a'))
    link.href = path
    link.click()
  }, `/students/${from.id}/decide/R3`)
  await expect(page.getByText(from.name).first()).toBeVisible()
  await expect(page.getByLabel(/^Reason/)).toHaveValue('')
})

test('every shortcut of the list does what the list says', async ({ page }) => {
  await signIn(page)
  await page.goto(server.url)
  await expect(page.getByRole('heading', { name: 'Floor' })).toBeVisible()
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog', { name: 'Keyboard' })).toBeVisible()
  const listed = await page.getByRole('dialog').locator('kbd').allTextContents()
  expect(listed).toEqual(['/ or Ctrl K', 'g then f', 'g then p', 'g then t', 'g then m', 'u', 'Tab, then Enter', 'l', 'Esc', '?'])
  // Nothing happens behind a dialog.
  await page.keyboard.press('g')
  await page.keyboard.press('p')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await expect(page).toHaveURL(`${server.url}/`)
  for (const [key, path] of [
    ['p', '/plan'],
    ['t', '/library'],
    ['m', '/shop'],
    ['f', '/'],
  ] as const) {
    await page.keyboard.press('g')
    await page.keyboard.press(key)
    await expect(page).toHaveURL(new RegExp(`${path}(/|$|\\?)`))
  }
  // The units go with the person: they are given back to whoever comes next.
  await Promise.all([page.waitForResponse((answer) => answer.url().endsWith('/api/session/likes')), page.keyboard.press('u')])
  await page.getByRole('button', { name: /units, theme/ }).click()
  await expect(page.getByRole('button', { name: 'mm, °C' })).toHaveAttribute('aria-pressed', 'true')
  await page.request.put(`${server.url}/api/session/likes`, { data: { language: null, units: 'in' } })
})

test('a finding says its limit, the specimen it lies in, why and what cures it before it is kept; the ruler is dragged', async ({ page }) => {
  await page.setViewportSize({ width: 820, height: 1180 })
  const students = await signIn(page)
  await page.goto(benchOf(students, 'Dev Pillai'))
  await page.getByRole('button', { name: "4:30 o'clock" }).click()
  await expect(page.getByText("Section at 3 o'clock")).toBeVisible()
  await page.getByRole('button', { name: 'Cap', exact: true }).click()
  await page.getByRole('button', { name: 'Undercut' }).click()
  const shown = page
    .getByRole('status')
    .filter({ hasText: /is cut there/ })
    .filter({ visible: true })
  await expect(shown).toContainText('Not yet judged')
  await page.getByRole('button', { name: 'Depth 1/64 in' }).click()
  await expect(shown).toContainText('Accept')

  const from = (await page.getByRole('button', { name: 'Depth 1/64 in' }).boundingBox())!
  const to = (await page.getByRole('button', { name: 'Depth 3/64 in' }).boundingBox())!
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2)
  await page.mouse.down()
  await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2, { steps: 8 })
  await page.mouse.up()
  await expect(page.getByRole('button', { name: 'Depth 3/64 in' })).toHaveAttribute('aria-pressed', 'true')
  await expect(shown).toContainText('Reject')
  await expect(shown).toContainText('Depth 3/64 in; the limit is 1/32 in.')
  await expect(shown).toContainText('Likely:')
  await expect(shown).toContainText('bend')

  // The toe is tapped on the section itself, or below it.
  const toe = page.getByRole('group', { name: /Joint section/ }).getByRole('button', { name: 'Left toe' })
  await toe.click()
  await expect(toe).toHaveAttribute('aria-pressed', 'true')
  await expect(page.getByRole('group', { name: 'Across the joint' }).getByRole('button', { name: 'Left toe' })).toHaveAttribute('aria-pressed', 'true')
  // All of it is in one view, above the bar at the foot.
  await page.evaluate(() => scrollTo(0, 0))
  const bar = (await page.locator('.thumb-bar').filter({ visible: true }).boundingBox())!
  const word = (await shown.boundingBox())!
  expect(word.y + word.height).toBeLessThanOrEqual(bar.y + 8)
  await isAccessible(page)
  await page.getByRole('button', { name: 'Keep this finding' }).click()
  await expect(page.getByText('Undercut recorded.')).toBeVisible()
  const kept = await (await page.request.get(page.url().replace('/coupons', '/api/coupons'))).json()
  expect(kept.findings.at(-1)).toMatchObject({ kind: 'undercut', clock: '4:30', toe: 'a' })
  await expect(page.getByRole('img', { name: /^Undercut, cap, 4:30 o'clock, left toe: rejected/ })).toBeVisible()
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
})

test('at the desk the act that keeps a finding is in sight with its verdict', async ({ page }) => {
  const students = await signIn(page)
  await page.goto(benchOf(students, 'Dev Pillai'))
  await page.getByRole('button', { name: "4:30 o'clock" }).click()
  await page.getByRole('button', { name: 'Undercut' }).click()
  await page.getByRole('button', { name: 'Depth 3/64 in' }).click()
  await page.evaluate(() => scrollTo(0, 0))
  await expect(page.getByRole('button', { name: 'Keep this finding' })).toBeInViewport({ ratio: 1 })
  await expect(page.getByRole('status').filter({ hasText: 'Reject' }).filter({ visible: true })).toBeInViewport({ ratio: 1 })
  await page.getByRole('button', { name: 'Leave it out' }).click()
})

test('face and root are measured on the section, from place to place, and closing says what it will say', async ({ page }) => {
  await page.setViewportSize({ width: 820, height: 1180 })
  const students = await signIn(page)
  await page.goto(benchOf(students, 'Emeka Strand'))
  await page.getByRole('tab', { name: 'Look and close' }).click()
  const drawing = page.getByRole('group', { name: /Joint section/ })
  await expect(drawing.getByRole('button', { name: 'face ?' })).toHaveAttribute('aria-pressed', 'true')
  // AWS D1.1: face reinforcement at most 1/8 in, from memory.
  await page.getByRole('button', { name: 'Face at 12: 5/32 in high' }).click()
  await expect(page.getByText("Section at 3 o'clock")).toBeVisible()
  await page.getByRole('group', { name: 'Measured at' }).getByRole('button', { name: /^12/ }).click()
  await expect(drawing.getByRole('button', { name: 'face 5/32 in high' })).toBeVisible()
  await drawing.getByRole('button', { name: 'root ?' }).first().click()
  await page.getByRole('button', { name: 'Root, left at 12: 1/32 in low' }).click()
  await expect(page.getByText('Face at 12', { exact: true }).last()).toBeVisible()
  await expect(page.getByText('Height 5/32 in; the limit is 1/8 in.')).toBeVisible()
  await expect(page.getByText(/^Closing will say:/).locator('..')).toContainText(/Emeka Strand, R3, as under test; .*not laid\./)

  // A specimen is chosen where it is cut, and what came of it stands there. AWS D1.1: a bend opens 1/8 in at most, from memory.
  const ring = page.getByRole('group', { name: /^Clock ring/ })
  await ring.getByRole('button', { name: 'Specimen, side: not tested' }).first().click()
  const seen = page.getByRole('group', { name: 'What was seen' })
  await expect(seen).toBeInViewport({ ratio: 1 })
  await seen.getByRole('button', { name: '1/4 in' }).click()
  await seen.locator('.lead').click()
  await expect(ring.getByRole('button', { name: 'Specimen, side: reject' })).toHaveCount(1)
  await expect(seen).toHaveCount(0)
  await isAccessible(page)
})

test('on the fit-up of every form of test no number lies over another, is cut off, or is wider than its field', async ({ page }) => {
  const students = await signIn(page)
  const studentId = students.find((one) => one.name === 'Rosalind Peake')!.id
  const all: { id: string; product: string; positions: string[]; processes: string[] }[] = await (await page.request.get(`${server.url}/api/tests`)).json()
  // Tests of one product, position and process are drawn alike: one of each.
  const tests = [...new Map(all.map((one) => [`${one.product} ${one.positions.join()} ${one.processes[0]}`, one])).values()]
  expect(tests.length).toBeGreaterThanOrEqual(15)
  await page.goto(server.url)
  await expect(page.getByRole('heading', { name: 'Floor' })).toBeVisible()
  for (const { id: testId } of tests) {
    const coupon = crypto.randomUUID()
    expect((await page.request.put(`${server.url}/api/coupons/${coupon}`, { data: { studentId, testId, asTest: false } })).ok()).toBe(true)
    // From one to the next as a link goes: the page is loaded once.
    await page.evaluate((href) => {
      const link = Object.assign(document.createElement('a'), { href })
      document.body.append(link)
      link.click()
      link.remove()
    }, `/coupons/${coupon}`)
    await expect(page.locator('h1 + p .number'), testId).toHaveText(testId)
    await expect(page.locator('[data-dimension]').first(), testId).toBeVisible()
    const wrong = await page.evaluate(() => {
      const fields = [...document.querySelectorAll('[data-dimension]')].map((one) => ({
        name: (one as SVGElement).dataset.dimension!,
        box: one.querySelector('rect')!.getBoundingClientRect(),
        text: one.querySelector('text')!.getBoundingClientRect(),
      }))
      const drawing = document.querySelector('[data-dimension]')!.closest('svg')!.getBoundingClientRect()
      const over = (a: DOMRect, b: DOMRect) => a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom
      return fields.flatMap((one, index) => [
        ...fields.slice(index + 1).flatMap((other) => (over(one.box, other.box) ? [`${one.name} over ${other.name}`] : [])),
        ...(one.text.width > one.box.width ? [`${one.name} is wider than its field`] : []),
        ...(one.box.left < drawing.left || one.box.right > drawing.right || one.box.top < drawing.top || one.box.bottom > drawing.bottom ? [`${one.name} is cut off`] : []),
      ])
    })
    expect.soft(wrong, testId).toEqual([])
    await page.request.put(`${server.url}/api/coupons/${coupon}/events/${crypto.randomUUID()}`, { data: { kind: 'voided', body: { reason: 'moved' } } })
  }
})

test('a wall screen shows first names from three metres, logs nothing, and stays a wall until somebody signs in', async ({ page }) => {
  await signIn(page)
  await page.setViewportSize({ width: 1920, height: 1080 })
  await page.goto(`${server.url}/?wall`)
  await page.getByRole('button', { name: 'First names' }).click()
  await expect(page.getByText('Emeka', { exact: true }).first()).toBeVisible()
  await expect(page.getByText('Emeka Strand')).toHaveCount(0)
  await expect(page.getByRole('navigation')).toHaveCount(0)
  await expect(page.getByRole('button')).toHaveText(['Sign in'])
  // A tenth of a degree at three metres is 5 mm; on a screen a metre wide that is 10 px of 1920.
  const least = await page.evaluate(() =>
    Math.min(...[...document.querySelectorAll('.wall .booth strong')].map((one) => parseFloat(getComputedStyle(one).fontSize))),
  )
  expect(least).toBeGreaterThanOrEqual(34)
  expect(await page.evaluate(() => document.documentElement.scrollHeight - innerHeight)).toBeLessThanOrEqual(0)
  await isAccessible(page)
  await page.goto(`${server.url}/ready`)
  await expect(page.getByText('Emeka', { exact: true }).first()).toBeVisible()
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.getByLabel('PIN').fill('2468')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByText(/The school asks/).first()).toBeVisible()
})

test('millimetres leave no inches and no °F behind, inches no millimetres and no °C', async ({ page }) => {
  const students = await signIn(page)
  const paths: [string, RegExp][] = [
    [benchOf(students, 'Emeka Strand'), /^Section at/],
    [`${server.url}/library/R6`, /^Preheat/],
    [`${server.url}/library/R3`, /What it qualifies/],
    [`${server.url}/library/F2`, /What it qualifies/],
    [`${server.url}/shop?card=wire`, /^Deposition$/],
    [`${server.url}/plan/stock`, /What the week takes/],
    [`${server.url}/plan/print?what=booth`, /Lay out:/],
  ]
  for (const [path, says] of paths) {
    // The units go with the person.
    await page.request.put(`${server.url}/api/session/likes`, { data: { language: null, units: 'mm' } })
    await page.goto(path)
    for (const unit of ['mm', 'in'] as const) {
      await expect(page.locator('main').getByText(says).first()).toBeVisible()
      await page.evaluate(() => document.querySelectorAll<HTMLDetailsElement>('main details').forEach((one) => (one.open = true)))
      // How sizes are typed is said in both; the stock book counts in kilograms, as its files do.
      // A key does what it does a moment later, once it is known that it is no device's.
      const strays = async () => {
        const text = (await page.locator('main').innerText()).replace(/Type sizes as the shop writes them.*/, '').replace(/\d* ?kg/g, '')
        return (
          text.match(
            unit === 'mm' ? /\d in\b(?! (a|the|this|all|10|booth|order|most|material)\b)|°F|ft³|\blb\b|in²|kJ\/in/g : /\d mm\b|mm²|°C|cm³|kJ\/mm|\d g\b/g,
          ) ?? []
        )
      }
      await expect.poll(strays, { message: `${unit} on ${path}` }).toEqual([])
      if (unit === 'mm') await page.keyboard.press('u')
    }
  }
})

test('on A4 and on Letter every sheet is light in the dark, has no button, and fits', async ({ page }) => {
  const students = await signIn(page)
  const bench = benchOf(students, 'Dev Pillai')
  await page.emulateMedia({ media: 'print' })
  await page.addInitScript(() => localStorage.setItem('gradus.theme', 'dark'))
  const margins = 2 * 45 // 12 mm each
  await page.setViewportSize({ width: 794 - margins, height: 1000 })
  for (const [path, says] of [
    [`${bench}/tag`, /Strike the stamp/],
    [`${server.url}/plan/print`, /Call before you go on|Nothing is planned any more/],
    [`${server.url}/plan/print?what=student`, /week of/],
    [`${server.url}/plan/print?what=booth`, /Lay out:/],
    [`${server.url}/plan/print?what=saw`, /Kerf/],
    [`${server.url}/plan`, /What is still ahead adds|This week is over/],
    [`${server.url}/plan/stock`, /What the week takes/],
    [`${server.url}/library/R3`, /What it qualifies/],
    [`${server.url}/shop?card=heat`, /kJ\/in/],
  ] as const) {
    await page.goto(path)
    await expect(page.getByText(says).first()).toBeVisible()
    for (const width of [794, 816]) {
      await page.setViewportSize({ width: width - margins, height: 1000 })
      const found = await page.evaluate(() => ({
        buttons: [...document.querySelectorAll('button, a.plate, a.lead, a.bare, header, nav')].filter((one) => (one as HTMLElement).offsetParent !== null)
          .length,
        ground: getComputedStyle(document.documentElement).backgroundColor,
        ink: getComputedStyle(document.body).color,
        over: document.documentElement.scrollWidth - innerWidth,
      }))
      expect.soft(found, `${path} at ${width}`).toEqual({ buttons: 0, ground: 'rgb(255, 255, 255)', ink: 'rgb(0, 0, 0)', over: 0 })
    }
  }
})
