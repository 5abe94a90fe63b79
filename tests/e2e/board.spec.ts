import { readFileSync } from 'node:fs'
import { and, eq } from 'drizzle-orm'
import * as s from '../../server/db/schema'
import { faults } from './axe'
import { db, expect, signIn, test, typeAndTake, waypoint } from './college'
import type { Page } from '@playwright/test'

/** The lane board as people use it: problems walked through and mended, drafts, several plans, two people, a phone. */
const planRows = async (username: string) =>
  db.select({ plan: s.plans }).from(s.plans).innerJoin(s.people, eq(s.people.id, s.plans.student)).where(eq(s.people.username, username))
const entriesOf = async (username: string) => {
  const rows = await db.select({ entry: s.planEntries }).from(s.planEntries).innerJoin(s.plans, eq(s.plans.id, s.planEntries.plan))
    .innerJoin(s.people, eq(s.people.id, s.plans.student))
    .where(and(eq(s.people.username, username), eq(s.plans.current, true)))
  return Object.fromEntries(rows.map(({ entry }) => [entry.course, entry.term]))
}
const changed = (page: Page, words: string | RegExp) => page.locator('.changed').filter({ hasText: words })
async function openPlan(page: Page, username: string) {
  await signIn(page, username)
  await waypoint(page, 'Plan')
  await expect(page.getByRole('heading', { name: /plan$/ })).toBeVisible()
}
async function dragTo(page: Page, item: string, term: string) {
  const tile = page.locator(`[data-item^="${item}"]`)
  await tile.scrollIntoViewIfNeeded()
  const from = (await tile.boundingBox())!
  const cell = (await page.locator(`[data-foot="${term}"]`).boundingBox())!
  await page.mouse.move(from.x + 20, from.y + 15)
  await page.mouse.down()
  await page.mouse.move(cell.x + 40, from.y + 18, { steps: 10 })
  await page.mouse.up()
}

test('a tile dragged where a prerequisite comes too late is flagged; the offered move mends it, in the database too', async ({ page }) => {
  await openPlan(page, 'idris')
  await expect(page.getByText('no problems')).toBeVisible()
  const before = await entriesOf('idris')
  const target = before['HYD 310'] ? 'HYD410' : 'HYD490'
  const code = `${target.slice(0, 3)} ${target.slice(3)}`
  await dragTo(page, target, '2027SP')
  await expect(changed(page, new RegExp(`${code} (moved to Spring 2027|is too early)`))).toBeVisible()
  await page.getByRole('button', { name: /\d+ problems?/ }).first().click()
  const drawer = page.getByRole('region', { name: 'Problems' })
  await expect(drawer).toContainText(/Problem 1 of \d/)
  await expect(drawer).toContainText(code)
  const move = drawer.getByRole('button', { name: /^Move to / }).first()
  const term = (await move.textContent())!.replace('Move to ', '').trim()
  await move.click()
  await expect(changed(page, `Move to ${term}`)).toContainText(/mended/)
  await expect.poll(async () => (await entriesOf('idris'))[code]).toBe(
    `${term.slice(-4)}${term.startsWith('Fall') ? 'FA' : term.startsWith('Spring') ? 'SP' : 'SU'}`,
  )
})

test('the problems are walked through by keyboard, one after the other', async ({ page }) => {
  await openPlan(page, 'tamsin')
  await page.keyboard.press('n')
  const drawer = page.getByRole('region', { name: 'Problems' })
  await expect(drawer).toContainText('Problem 1 of 4 · 3 blockers, 1 caution')
  await expect(drawer).toContainText('HYD 310 is too early in Fall 2027: it needs STT 201')
  await page.keyboard.press('n')
  await expect(drawer).toContainText('Problem 2 of 4')
  await page.keyboard.press('n')
  await page.keyboard.press('n')
  await expect(drawer).toContainText('7 credits have no place in the plan yet')
  await expect(drawer.getByRole('button', { name: 'Draft the rest' })).toBeVisible()
  await page.keyboard.press('Shift+N')
  await expect(drawer).toContainText('Problem 3 of 4')
})

test('several tiles are chosen and move as one, and back with one undo', async ({ page }) => {
  await openPlan(page, 'tamsin')
  await page.locator('[data-item^="VAL220"]').focus()
  await page.keyboard.press('Space')
  await page.locator('[data-item^="MTH110"]').focus()
  await page.keyboard.press('Space')
  await expect(page.getByText('2 tiles chosen.')).toBeVisible()
  await page.keyboard.press('Alt+ArrowRight')
  await expect(changed(page, /MTH 110, VAL 220 moved to Spring 2028|VAL 220, MTH 110 moved to Spring 2028/)).toBeVisible()
  await expect.poll(async () =>
    Object.entries(await entriesOf('tamsin')).filter(([code]) => ['VAL 220', 'MTH 110'].includes(code)).map(([, term]) => term),
  ).toEqual(['2028SP', '2028SP'])
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await entriesOf('tamsin'))['VAL 220']).toBe('2027FA')
  expect((await entriesOf('tamsin'))['MTH 110']).toBe('2027FA')
})

test('a draft is looked at, compared, taken in one step, outlives a reload, and is undone in one step after it', async ({ page }) => {
  await openPlan(page, 'perrin')
  const before = await entriesOf('perrin')
  await page.getByRole('button', { name: 'Draft the rest' }).click()
  const drawer = page.getByRole('region', { name: 'Draft the rest' })
  await drawer.getByRole('button', { name: 'Draft', exact: true }).click()
  await expect(drawer.getByRole('button', { name: /^Soonest/ })).toBeVisible({ timeout: 30_000 })
  await expect(drawer).toContainText('The shortest possible')
  // Hatched on the board, and nothing in the database.
  await expect(page.locator('[data-item^="HYD490"]')).toHaveAttribute('aria-label', /considering/)
  expect(await entriesOf('perrin')).toEqual(before)
  await drawer.getByRole('button', { name: /^Lighter terms/ }).click()
  await expect(drawer.getByRole('button', { name: /^Lighter terms/ })).toHaveAttribute('aria-pressed', 'true')
  expect(await faults(page)).toEqual([])
  await drawer.getByRole('button', { name: /^Soonest/ }).click()
  await drawer.getByRole('button', { name: 'Take this draft' }).click()
  await expect(changed(page, /Draft taken: soonest/)).toBeVisible()
  await expect(page.getByText(/Finish Spring 2029/)).toBeVisible()
  await expect.poll(async () => Object.keys(await entriesOf('perrin')).length).toBeGreaterThan(20)
  await expect(page.getByText('saved', { exact: true })).toBeVisible()
  await page.reload()
  await expect(page.getByText(/Finish Spring 2029/)).toBeVisible()
  await page.getByRole('button', { name: /^Undo/ }).click()
  await expect.poll(() => entriesOf('perrin')).toEqual(before)
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect(page.getByText(/Finish Spring 2029/)).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect.poll(() => entriesOf('perrin')).toEqual(before)
})

test('when no draft is possible, the smallest reason is named', async ({ page }) => {
  await openPlan(page, 'rafe')
  await page.getByRole('button', { name: 'Wishes and pace' }).click()
  const wishes = page.getByRole('region', { name: 'Wishes and pace' })
  await wishes.getByRole('combobox', { name: 'Finish by' }).click({ force: true })
  await page.getByRole('option', { name: 'Spring 2028' }).click()
  await expect(changed(page, 'Latest finish set')).toBeVisible()
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Draft the rest' }).click()
  const drawer = page.getByRole('region', { name: 'Draft the rest' })
  await drawer.getByRole('button', { name: 'Draft', exact: true }).click()
  await expect(drawer).toContainText('No draft is possible.', { timeout: 30_000 })
  await expect(drawer).toContainText('Finishing by Spring 2028 alone makes it impossible')
})

test('two people on one plan: each sees what the other does, and both edits stay', async ({ page, browser }) => {
  await openPlan(page, 'kerra')
  const tiles = page.locator('.tile.movable')
  const [mine, theirs] = [(await tiles.nth(0).getAttribute('data-item'))!, (await tiles.nth(1).getAttribute('data-item'))!]
  const [myCode, theirCode] = [(await tiles.nth(0).locator('.code').textContent())!, (await tiles.nth(1).locator('.code').textContent())!]
  const tile = (where: Page, id: string) => where.locator(`[data-item="${id}"]`)
  const other = await (await browser.newContext()).newPage()
  await signIn(other, 'hollis')
  await other.getByLabel('Find a student').fill('Kerra')
  await other.getByRole('link', { name: 'Kerra Dunmail' }).click()
  await waypoint(other, 'Plan')
  await expect(tile(other, mine)).toBeVisible()
  await tile(page, mine).focus()
  await page.keyboard.press('p')
  await expect(tile(other, mine).getByLabel('pinned')).toBeVisible()
  await expect(changed(other, `Kerra Dunmail pinned ${myCode}`)).toBeVisible()
  await tile(other, theirs).focus()
  await other.keyboard.press('p')
  await expect(tile(page, theirs).getByLabel('pinned')).toBeVisible()
  await expect(changed(page, `Hollis Brandt pinned ${theirCode}`)).toBeVisible()
  await expect(tile(page, mine).getByLabel('pinned')).toBeVisible()
  const rows = await db.select({ entry: s.planEntries }).from(s.planEntries).innerJoin(s.plans, eq(s.plans.id, s.planEntries.plan))
    .innerJoin(s.people, eq(s.people.id, s.plans.student)).where(eq(s.people.username, 'kerra'))
  expect(rows.filter(({ entry }) => entry.pinned).map(({ entry }) => entry.course).sort()).toEqual([myCode, theirCode].sort())
  // A comment of the advisor's reaches the student's open drawer too.
  await tile(page, theirs).click()
  await tile(other, theirs).click()
  await other.getByRole('region', { name: theirCode }).getByLabel('Write a comment').fill('Fine here?')
  await other.getByRole('region', { name: theirCode }).getByRole('button', { name: 'Send' }).click()
  await expect(page.getByRole('region', { name: theirCode })).toContainText('Fine here?')
  await other.context().close()
})

test('edits made offline outlive a reload and are sent', async ({ page, context, complaints }) => {
  await openPlan(page, 'petra')
  const id = (await page.locator('.tile.movable').first().getAttribute('data-item'))!
  const tile = page.locator(`[data-item="${id}"]`)
  await page.route('**/api/students/*/plan', route => route.abort())
  await tile.focus()
  await page.keyboard.press('p')
  await expect(page.getByText('kept on this device, will be sent')).toBeVisible()
  const isPinned = async () =>
    (await db.select({ entry: s.planEntries }).from(s.planEntries).innerJoin(s.plans, eq(s.plans.id, s.planEntries.plan)).innerJoin(
      s.people,
      eq(s.people.id, s.plans.student),
    ).where(and(eq(s.people.username, 'petra'), eq(s.planEntries.id, id))))[0]!.entry.pinned
  expect(await isPinned()).toBe(false)
  await page.reload()
  await expect(tile.getByLabel('pinned')).toBeVisible()
  expect(await isPinned()).toBe(false)
  await page.unroute('**/api/students/*/plan')
  await expect.poll(isPinned, { timeout: 15_000 }).toBe(true)
  await expect(page.getByText('saved', { exact: true })).toBeVisible()
  complaints.splice(0, complaints.length, ...complaints.filter(text => !text.includes('ERR_FAILED')))
  await context.close()
})

test('a place is held for a line and a course chosen for it later; partners are placed in one move', async ({ page }) => {
  await openPlan(page, 'ines')
  await page.getByRole('button', { name: 'Hold a place' }).first().click()
  const drawer = page.getByRole('region', { name: 'To choose' })
  await expect(drawer).toContainText('3 credits are held for it in Spring 2027')
  await expect(page.locator('.hold')).toHaveCount(1)
  const choice = drawer.getByRole('listitem').first().getByRole('button')
  const code = (await choice.textContent())!.trim()
  await choice.click()
  await expect(page.locator('.hold')).toHaveCount(0)
  await expect(page.getByRole('region', { name: code })).toBeVisible()
  await expect.poll(async () => (await entriesOf('ines'))[code]).toBe('2027SP')
  await typeAndTake(page.getByLabel('Place a course in Spring 2027'), 'HYD 460')
  const reading = page.getByRole('region', { name: 'HYD 460' })
  await expect(reading).toContainText('gives credit 2 times')
  await reading.getByRole('combobox', { name: 'Credits' }).press('ArrowDown')
  await page.getByRole('option', { name: '3', exact: true }).click()
  await expect(changed(page, 'HYD 460 set to 3 credits')).toBeVisible()
  await reading.getByRole('button', { name: 'Take out of the plan' }).click()
  await typeAndTake(page.getByLabel('Place a course in Spring 2027'), 'CHY 310')
  await expect(changed(page, 'CHY 310 and CHY 311 placed in Spring 2027, since they go together')).toBeVisible()
  await page.keyboard.press('Escape')
  await page.locator('[data-item^="CHY311"]').focus()
  await page.keyboard.press('Alt+ArrowRight')
  await expect.poll(async () => [(await entriesOf('ines'))['CHY 310'], (await entriesOf('ines'))['CHY 311']]).toEqual(['2027FA', '2027FA'])
})

test('plans are copied, compared, renamed, made current, deleted and brought back', async ({ page }) => {
  await openPlan(page, 'merrin')
  const menu = page.getByRole('button', { name: 'Plans' })
  const dialog = page.getByRole('dialog', { name: 'Plans' })
  await menu.click()
  await dialog.getByRole('button', { name: 'Copy' }).click()
  await expect(page.getByRole('heading', { name: 'Copy of Main plan' })).toBeVisible()
  await expect(page.getByText(/This is not your current plan/)).toBeVisible()
  const moved = page.locator('.tile.movable').first()
  const course = (await moved.locator('.code').textContent())!
  await moved.focus()
  await page.keyboard.press('Delete')
  await expect(changed(page, `${course} taken out`)).toBeVisible()
  expect(Object.keys(await entriesOf('merrin'))).toContain(course)
  await page.getByRole('link', { name: 'Compare' }).click()
  await expect(page.locator('tr.differs').first()).toBeVisible()
  await expect(page.getByText(course).first()).toBeVisible()
  await expect(page.getByText(`not in Copy of Main`).first()).toBeVisible()
  await page.getByRole('link', { name: 'Back to the plan' }).click()
  await menu.click()
  await dialog.getByRole('listitem').filter({ hasText: 'Copy of Main' }).getByRole('button', { name: 'Rename' }).click()
  await dialog.getByLabel('Name of the plan').fill('Lean')
  await dialog.locator('form').getByRole('button', { name: 'Rename' }).click()
  await expect(dialog.getByRole('button', { name: 'Lean' })).toBeVisible()
  await dialog.getByRole('listitem').filter({ hasText: 'Lean' }).getByRole('button', { name: 'Make current' }).click()
  await expect.poll(async () => (await planRows('merrin')).find(({ plan }) => plan.current)?.plan.name).toBe('Lean')
  await dialog.getByRole('listitem').filter({ hasText: 'Main' }).getByRole('button', { name: 'Delete' }).click()
  await expect(dialog.getByText('“Main” is deleted.')).toBeVisible()
  await expect.poll(async () => (await planRows('merrin')).find(({ plan }) => plan.name === 'Main')?.plan.deletedAt).not.toBeNull()
  await dialog.getByRole('button', { name: 'Bring it back' }).click()
  await expect.poll(async () => (await planRows('merrin')).find(({ plan }) => plan.name === 'Main')?.plan.deletedAt).toBeNull()
})

test('a plan goes out as a file and in again as a plan of its own; a wrong file is refused row by row', async ({ page }, info) => {
  await openPlan(page, 'wilf')
  await page.getByRole('button', { name: 'Files' }).click()
  const dialog = page.getByRole('dialog', { name: 'Plan files' })
  const [download] = await Promise.all([page.waitForEvent('download'), dialog.getByRole('button', { name: 'as CSV' }).click()])
  const path = info.outputPath('plan.csv')
  await download.saveAs(path)
  const table = readFileSync(path, 'utf8')
  expect(table.split('\r\n')[0]).toBe('term,course,title,credits,pinned,counts for,note')
  await dialog.getByLabel('Open a plan file').setInputFiles({ name: 'bad.csv', mimeType: 'text/csv',
    buffer: Buffer.from('term,course\n2027SP,WRT 110\n2027XX,ZZZ 999\n') })
  await expect(dialog).toContainText('bad.csv was not taken: 2 problems.')
  await expect(dialog).toContainText('Row 3: there is no course "ZZZ 999" in the catalog.')
  await dialog.getByLabel('Open a plan file').setInputFiles({ name: 'spring.csv', mimeType: 'text/csv', buffer: Buffer.from(table) })
  await dialog.getByRole('button', { name: 'Keep as a plan of its own' }).click()
  await expect(page.getByRole('heading', { name: 'spring plan' })).toBeVisible()
  const kept = (await planRows('wilf')).map(({ plan }) => plan)
  expect(kept.map(plan => plan.name)).toEqual(['Main', 'spring'])
  const courses = async (id: number) =>
    (await db.select().from(s.planEntries).where(eq(s.planEntries.plan, id))).map(entry => `${entry.course} ${entry.term}`).sort()
  expect(await courses(kept[1]!.id)).toEqual(await courses(kept[0]!.id))
})

test('the prerequisite map shows where the student stands, and the sheet prints on one landscape page', async ({ page }) => {
  await openPlan(page, 'tamsin')
  await page.getByRole('link', { name: 'Prerequisite map' }).click()
  await expect(page.getByRole('region', { name: 'Bottlenecks' })).toContainText('HYD 210')
  await page.getByRole('button', { name: /^HYD 490 Watershed Capstone/ }).focus()
  await expect(page.locator('path.lit')).not.toHaveCount(0)
  await page.getByText('The map as a table').click()
  await expect(page.getByRole('row', { name: /HYD 310/ }).first()).toBeVisible()
  await page.getByRole('link', { name: 'Back to the plan' }).click()
  await page.getByRole('link', { name: 'Print' }).click()
  await expect(page.getByRole('heading', { name: 'Tamsin Orrell: Main plan' })).toBeVisible()
  await expect(page.getByRole('columnheader', { name: 'Spring 2029' })).toBeVisible()
  const pdf = (await page.pdf({ preferCSSPageSize: true })).toString('latin1')
  expect(pdf.match(/\/Type\s*\/Page[^s]/g)?.length).toBe(1)
  const [, , , width, height] = /\/MediaBox\s*\[\s*([\d.]+)\s+([\d.]+)\s+([\d.]+)\s+([\d.]+)/.exec(pdf)!.map(Number)
  expect(width!).toBeGreaterThan(height!)
})

test('on a phone one term stands at a time, and a finger carries a tile into the next', async ({ browser }) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true })
  const page = await context.newPage()
  await openPlan(page, 'odile')
  const terms = page.getByRole('navigation', { name: 'Terms' })
  await expect(terms).toContainText('Spring 2027')
  const tile = page.locator('[data-item^="HRT230"]')
  await expect(tile).toBeVisible()
  await expect(page.locator('[data-foot]')).toHaveCount(1)
  const next = terms.getByRole('button').last()
  const from = (await tile.boundingBox())!
  const to = (await next.boundingBox())!
  const touch = await context.newCDPSession(page)
  const at = (box: { x: number, y: number, width: number, height: number }) => ({ x: box.x + box.width / 2, y: box.y + box.height / 2 })
  await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: [at(from)] })
  // The tile is lifted when the finger has rested on it; its copy that follows the finger is the sign.
  await expect(page.locator('body > .tile')).toHaveCount(1)
  await touch.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: [{ x: at(to).x, y: at(to).y + 40 }] })
  await touch.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: [at(to)] })
  await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] })
  await expect(changed(page, /HRT 230 moved to Summer 2027/)).toBeVisible()
  await expect.poll(async () => (await entriesOf('odile'))['HRT 230']).toBe('2027SU')
  await next.click()
  await expect(tile).toBeVisible()
  await context.close()
})
