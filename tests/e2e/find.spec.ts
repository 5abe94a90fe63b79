import { and, eq } from 'drizzle-orm'
import type { Page } from '@playwright/test'
import * as s from '../../server/db/schema'
import { db, expect, signIn, signOut, test, waypoint } from './college'

/** From an open requirement to a week that works and goes along: Find, the section sheet, hours kept free, groups, feed and sharing. */
const personOf = async (username: string) => (await db.select().from(s.people).where(eq(s.people.username, username)))[0]!.id
const sectionOf = async (course: string, label: string) => (await db.select().from(s.sections)
  .where(and(eq(s.sections.term, '2027SP'), eq(s.sections.course, course), eq(s.sections.label, label))))[0]!
const lineUpOf = async (username: string) => {
  const rows = await db.select().from(s.lineUpRows).where(eq(s.lineUpRows.student, await personOf(username)))
  return Object.fromEntries(rows.map(row => [row.course, row]))
}
const panel = (page: Page) => page.getByRole('dialog', { name: 'Find' })
async function openFind(page: Page) {
  await expect(page.locator('[aria-busy=true]')).toHaveCount(0)
  await page.keyboard.press('/')
  const box = page.getByRole('textbox', { name: /^Find/ })
  await expect(box).toBeFocused()
  return box
}
/** Presses an arrow until what has the focus is called so. */
async function walkTo(page: Page, key: string, name: RegExp) {
  for (let i = 0; i < 40; i++) {
    if (name.test(await page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? ''))) return
    await page.keyboard.press(key)
  }
  throw new Error(`${name} is not reached by ${key}`)
}

test('from an open requirement to a picked bundle without leaving the keyboard', async ({ page }) => {
  await signIn(page, 'perrin')
  await waypoint(page, 'Requirements')
  const line = page.getByRole('button', { name: /^Voices/ }).first()
  await line.focus()
  await page.keyboard.press('Enter')
  const drawer = page.getByRole('region', { name: 'Voices' })
  await drawer.getByRole('button', { name: /^Find sections in Spring 2027/ }).focus()
  await page.keyboard.press('Enter')
  await expect(panel(page).getByText(/\d+ bundles? in \d+ courses?/)).toBeVisible()
  await expect(panel(page).getByRole('button', { name: /that count for Voices/ })).toBeVisible()
  await expect(page.getByRole('textbox', { name: /^Find/ })).toBeFocused()
  await page.keyboard.press('ArrowDown')
  await walkTo(page, 'ArrowDown', /^[A-Z]{3} \d{3}-\d+.*fits/)
  const name = (await page.evaluate(() => document.activeElement!.getAttribute('aria-label')))!
  const [, course, label] = /^([A-Z]{3} \d{3})-(\w+)/.exec(name)!
  await page.keyboard.press('Enter')
  await expect(panel(page).getByRole('button', { name: new RegExp(`^${course}-${label}.*picked`) })).toBeVisible()
  expect((await lineUpOf('perrin'))[course!]!.sectionIds).toContain((await sectionOf(course!, label!)).id)
  // Another press takes it out again; Esc closes, and the focus is where it was.
  await page.keyboard.press('Enter')
  await expect.poll(async () => (await lineUpOf('perrin'))[course!]).toBeUndefined()
  await page.keyboard.press('Escape')
  await expect(panel(page)).toHaveCount(0)
  await expect(page).not.toHaveURL(/find=/)
})

test('what is misspelt is found; conditions say what they leave, and what hides everything is named', async ({ page }) => {
  await signIn(page, 'perrin')
  await waypoint(page, 'Week')
  const box = await openFind(page)
  await box.fill('groundwatr')
  const course = panel(page).getByRole('region', { name: /^HYD 230/ })
  await expect(course).toBeVisible()
  const all = await course.getByRole('listitem').count()
  await panel(page).getByRole('button', { name: /^on any days/ }).click()
  await page.getByRole('option', { name: /Tuesday/ }).or(page.getByRole('listitem').filter({ hasText: 'Tuesday' })).first().click()
  await page.keyboard.press('Escape')
  await expect(panel(page)).toBeVisible()
  await expect(panel(page).getByText('Nothing answers to that.').or(course)).toBeVisible()
  const nothing = panel(page).getByText('Nothing answers to that.')
  await expect(nothing).toBeVisible()
  // Groundwater meets on Tuesdays never by itself; letting the days go brings all of it back.
  await panel(page).getByRole('button', { name: 'Let go of the days' }).click()
  await expect(course.getByRole('listitem')).toHaveCount(all)
  await expect(panel(page).getByRole('button', { name: /prerequisite ▸/ }).or(course)).toHaveCount(await panel(page)
    .getByRole('button', { name: /prerequisite ▸/ }).count() + 1)
})

test('a pasted list lands in the line-up, with the number that is none named', async ({ page }) => {
  const [lecture, lab] = [await sectionOf('SOL 201', '02'), await sectionOf('SOL 201', '02L')]
  const ecology = await sectionOf('ECL 210', '03')
  await signIn(page, 'perrin')
  await waypoint(page, 'Week')
  const box = await openFind(page)
  await box.fill(`${lecture.number}, ${lab.number} ${ecology.number} 99999`)
  const list = panel(page).getByRole('region', { name: 'Section numbers' })
  await expect(list.getByRole('listitem')).toHaveCount(4)
  await expect(list.getByRole('listitem').filter({ hasText: '99999' })).toContainText('There is no section 99999 in Spring 2027.')
  await list.getByRole('button', { name: 'Put 2 bundles into the line-up' }).click()
  await expect(panel(page)).toHaveCount(0)
  const rows = await lineUpOf('perrin')
  expect(rows['SOL 201']!.sectionIds.sort()).toEqual([lecture.id, lab.id].sort())
  expect(rows['ECL 210']!.sectionIds).toEqual([ecology.id])
  await expect(page.getByRole('region', { name: /Week, days as rows/ }).getByText('SOL 201-02', { exact: false }).first()).toBeVisible()
})

test('all about a section stands on one sheet, from the week and from its address', async ({ page }) => {
  await signIn(page, 'perrin')
  await waypoint(page, 'Week')
  const row = page.getByRole('region', { name: 'Bundles of SOL 201' }).getByRole('button', { name: /^SOL 201-01/ })
  await row.focus()
  await page.keyboard.press('i')
  const sheet = page.getByRole('dialog', { name: 'Section' })
  await expect(sheet.getByRole('heading', { name: /SOL 201-01 Soils/ })).toBeVisible()
  const section = await sectionOf('SOL 201', '01')
  await expect(sheet).toContainText(`number ${section.number}`)
  await expect(sheet).toContainText(/Exam: \d+ May 2027/)
  await expect(sheet).toContainText(/counts for/)
  // The rule as it stands for this student, part by part.
  const needs = sheet.getByRole('definition').filter({ hasText: /^(yes|if passed|in the plan|no)/ })
  await expect(needs.first()).toBeVisible()
  await page.reload()
  await expect(sheet.getByRole('heading', { name: /SOL 201-01 Soils/ })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(sheet).toHaveCount(0)
})

test('hours are kept free by drawing and by hand, and bundles say that they hit them', async ({ page }) => {
  await signIn(page, 'perrin')
  await waypoint(page, 'Week')
  const day = page.getByRole('list', { name: 'Tuesday' })
  await expect(page.getByRole('region', { name: 'Bundles of HYD 230' })).toBeVisible()
  // The line is slow: the hours stand in the week before it is answered, and the form is gone.
  let lineIsFree!: () => void
  const slow = new Promise<void>((resolve) => {
    lineIsFree = resolve
  })
  await page.route('**/week-wishes*', async (route) => {
    await slow
    await route.continue()
  })
  const box = (await day.boundingBox())!
  await page.mouse.move(box.x + box.width * 0.82, box.y + 40)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width * 0.97, box.y + 40, { steps: 6 })
  await page.mouse.up()
  const dialog = page.getByRole('dialog', { name: 'Hours kept free' })
  await dialog.getByLabel('What for').fill('shift')
  await dialog.getByRole('button', { name: 'Keep them free' }).click()
  await expect(dialog).toBeHidden()
  await expect(day.getByText(/shift 16:\d\d–1[78]:\d\d/)).toBeVisible()
  lineIsFree()
  const perrin = await personOf('perrin')
  // What stands on the screen is sent as it is shown.
  await expect.poll(async () => (await db.select().from(s.weekWishes).where(eq(s.weekWishes.student, perrin)))[0]?.wishes)
    .toEqual([expect.objectContaining({ kind: 'keep free', days: ['T'], name: 'shift', weight: 'hard' })])
  await expect(page.getByRole('region', { name: 'Bundles of HYD 230' }).getByRole('button', { name: /^HYD 230-02/ })).toHaveAccessibleName(
    /hits keep-free: shift/)
  // Moved to other hours: dragged as it is long, and by half an hour with the keys.
  const wished = async () => {
    const [row] = await db.select().from(s.weekWishes).where(eq(s.weekWishes.student, await personOf('perrin')))
    return row!.wishes.flatMap(wish => wish.kind === 'keep free' ? [wish] : [])[0]!
  }
  const before = await wished()
  const label = (await day.getByText(/shift/).boundingBox())!
  await page.mouse.move(label.x + 20, label.y + 6)
  await page.mouse.down()
  await page.mouse.move(label.x + 20 - box.width * 0.2, label.y + 6, { steps: 6 })
  await page.mouse.up()
  await expect.poll(async () => (await wished()).start).toBeLessThan(before.start - 60)
  const dragged = await wished()
  expect(dragged.end - dragged.start).toBe(before.end - before.start)
  const letGo = page.getByRole('button', { name: /^Let go: Tuesday shift/ })
  await letGo.focus()
  await page.keyboard.press('Alt+ArrowRight')
  await expect.poll(wished).toMatchObject({ start: dragged.start + 30, end: dragged.end + 30 })
  await expect(letGo).toBeFocused()
  await letGo.click()
  await expect(day.getByText(/shift/)).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(day.getByText(/shift/)).toBeVisible()
})

test('a condition is added from its group, the search kept by name and taken up again, two bundles held side by side', async ({ page }) => {
  await signIn(page, 'gwen')
  await waypoint(page, 'Week')
  const box = await openFind(page)
  const found = panel(page).getByRole('status').first()
  await expect(found).toHaveText(/\d+ bundles in \d+ courses/)
  const all = (await found.textContent())!
  await panel(page).getByRole('button', { name: '+ condition' }).click()
  const more = page.getByRole('list', { name: 'Another condition' })
  await more.getByText('given in any way').click()
  await more.getByText('online any time').click()
  await expect(panel(page).getByRole('button', { name: /online any time/ })).toBeVisible()
  await expect(found).not.toHaveText(all)
  const online = (await found.textContent())!
  await panel(page).getByRole('button', { name: 'keep this search' }).click()
  await page.getByRole('dialog', { name: 'Keep this search' }).getByLabel('Name').fill('from home')
  await page.getByRole('dialog', { name: 'Keep this search' }).getByRole('button', { name: 'Keep', exact: true }).click()
  await panel(page).getByRole('button', { name: 'begin anew' }).click()
  await expect(found).not.toHaveText(online)
  await panel(page).getByRole('button', { name: 'kept searches' }).click()
  await page.getByText('from home', { exact: true }).click()
  await expect(found).toHaveText(online)
  await panel(page).getByRole('button', { name: 'kept searches' }).click()
  await page.getByRole('button', { name: 'Let from home go' }).click()
  await expect(panel(page).getByRole('button', { name: 'kept searches' })).toHaveCount(0)

  await panel(page).getByRole('button', { name: 'begin anew' }).click()
  await box.fill('CHY 110')
  const rows = panel(page).getByRole('region', { name: /^CHY 110/ }).locator('.row')
  await rows.first().focus()
  await page.keyboard.press('c')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('c')
  const table = panel(page).getByRole('region', { name: 'Side by side' })
  await expect(table.getByRole('columnheader').filter({ hasText: 'take out' })).toHaveCount(2)
  await expect(table.getByRole('columnheader', { name: /CHY 110-01/ })).toBeVisible()
})

test('busy hours come from a calendar file', async ({ page }) => {
  await signIn(page, 'perrin')
  await waypoint(page, 'Week')
  await page.getByRole('button', { name: 'Keep hours free …' }).click()
  const dialog = page.getByRole('dialog', { name: 'Hours kept free' })
  const file = (text: string) => ({ name: 'mine.ics', mimeType: 'text/calendar', buffer: Buffer.from(text) })
  await dialog.locator('input[type=file]').setInputFiles(file('no calendar'))
  await expect(dialog.getByRole('alert')).toContainText('This is no calendar file.')
  await dialog.locator('input[type=file]').setInputFiles(file(['BEGIN:VCALENDAR', 'VERSION:2.0', 'BEGIN:VEVENT', 'UID:1', 'SUMMARY:Choir',
    'DTSTART:20270113T193000', 'DTEND:20270113T210000', 'RRULE:FREQ=WEEKLY;COUNT=12', 'END:VEVENT', 'END:VCALENDAR'].join('\r\n')))
  await expect(dialog).toContainText('1 block come')
  await dialog.getByRole('button', { name: 'Keep 1 block free' }).click()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('list', { name: 'Wednesday' }).getByText(/Choir 19:30–21:00/)).toBeVisible()
  await db.delete(s.weekWishes).where(eq(s.weekWishes.student, await personOf('perrin')))
})

test('a real week shows its dates and its days without classes; exams and the list are read beside it', async ({ page }) => {
  await signIn(page, 'perrin')
  await waypoint(page, 'Week')
  await page.getByRole('button', { name: /^Week 2, from 18 Jan 2027, 18 Jan 2027 Winter holiday/ }).click()
  await expect(page.getByRole('heading', { name: 'Week of 18 Jan 2027' })).toBeVisible()
  await expect(page.getByRole('list', { name: 'Monday' })).toContainText('Winter holiday, no classes')
  await expect(page.getByRole('list', { name: 'Wednesday' })).toContainText('runs as a Monday')
  await page.getByRole('button', { name: 'as a list' }).click()
  const rows = page.getByRole('table', { name: 'Sections of the week' }).first().getByRole('row')
  await expect(rows.filter({ hasText: 'SOL 201-02' }).first()).toContainText('picked')
  await page.getByRole('button', { name: 'exams' }).click()
  await expect(page.getByRole('region', { name: 'Exams' })).toContainText('ECL 210-03')
})

test('backups in order and the waitlist are set up where the row stands, and kept', async ({ page }) => {
  await signIn(page, 'perrin')
  await waypoint(page, 'Week')
  const column = page.getByRole('region', { name: 'Bundles of ECL 210' })
  await column.getByRole('button', { name: /^ECL 210-05/ }).focus()
  await page.keyboard.press('b')
  await expect(column.getByRole('button', { name: /^ECL 210-05.*backup 1/ })).toBeVisible()
  await waypoint(page, 'Register')
  const row = page.getByRole('list', { name: 'Run sheet' }).getByRole('listitem').filter({ hasText: 'ECL 210-03' })
  await expect(row).toContainText('backups 05')
  await row.getByRole('button', { name: 'Backups, waitlist and grading of ECL 210' }).click()
  const dialog = page.getByRole('dialog', { name: 'How ECL 210 is registered' })
  await dialog.getByLabel('Join the waitlist').check()
  await expect.poll(async () => (await lineUpOf('perrin'))['ECL 210']!.waitIfFull).toBe(true)
  await dialog.getByRole('button', { name: 'Done' }).click()
  await expect(row).toContainText('waits if full')
  expect((await lineUpOf('perrin'))['ECL 210']!.backups).toEqual([[(await sectionOf('ECL 210', '05')).id]])
  await row.getByRole('button', { name: /^Serve ECL 210/, disabled: false }).click()
  await expect.poll(async () => Object.values(await lineUpOf('perrin')).map(one => one.position).sort()).toEqual([0, 1])
})

test('the feed is read at its secret address, again after a change, and ends when it is renewed', async ({ page, request }) => {
  await signIn(page, 'perrin')
  await waypoint(page, 'Week')
  await page.getByRole('button', { name: 'Take it along' }).click()
  await page.getByText('Calendar feed').click()
  const dialog = page.getByRole('dialog', { name: 'Calendar feed' })
  await dialog.getByRole('button', { name: 'Make an address' }).click()
  const field = dialog.getByLabel('The address')
  await expect(field).toHaveValue(/\/calendar\/[\w-]{20,}\.ics$/)
  const address = await field.inputValue()
  const read = async (at: string) => (await request.get(at)).text()
  expect(await read(address)).toContain('SUMMARY:SOL 201-02 Soils')
  const student = await personOf('perrin')
  await db.delete(s.lineUpRows).where(and(eq(s.lineUpRows.student, student), eq(s.lineUpRows.course, 'SOL 201')))
  const again = await read(address)
  expect(again).not.toContain('SOL 201')
  expect(again).toContain('ECL 210-03')
  await dialog.getByRole('button', { name: 'Make a new address' }).click()
  await expect(field).not.toHaveValue(address)
  expect((await request.get(address)).status()).toBe(404)
  expect((await request.get(await field.inputValue())).headers()['content-type']).toContain('text/calendar')
  const [row] = await db.select().from(s.calendarFeeds).where(eq(s.calendarFeeds.student, student))
  expect(await field.inputValue()).not.toContain(row!.secret.trim())
})

test('the advisor looks at the week that was shared, and sees what changed since', async ({ page }) => {
  await signIn(page, 'perrin')
  await waypoint(page, 'Week')
  await page.getByRole('button', { name: 'Take it along' }).click()
  await page.getByText('Share with my advisor').click()
  const dialog = page.getByRole('dialog', { name: 'Share this week' })
  await dialog.getByLabel('A word with it').fill('Is Friday free enough?')
  await dialog.getByRole('button', { name: 'Share', exact: true }).click()
  await expect(page.getByRole('region', { name: 'Shared week' })).toContainText('You shared this week')
  const column = page.getByRole('region', { name: 'Bundles of ECL 210' })
  await column.getByRole('button', { name: /^ECL 210-01/ }).click()
  await expect(column.getByRole('button', { name: /^ECL 210-01/ })).toHaveAttribute('aria-pressed', 'true')
  await signOut(page)
  await signIn(page, 'yara')
  await page.goto(`/student/${await personOf('perrin')}/week`)
  const shared = page.getByRole('region', { name: 'Shared week' })
  await expect(shared).toContainText('Perrin Locke shared this week')
  await expect(shared).toContainText('Is Friday free enough?')
  await expect(shared).toContainText('ECL 210-03 is now ECL 210-01')
  await expect(page.getByRole('button', { name: 'Arrangements' })).toHaveCount(0)
  await db.delete(s.lineUpRows).where(eq(s.lineUpRows.student, await personOf('perrin')))
})

test('a group is taken in one press, changed in another, and taken back as one', async ({ page }) => {
  await signIn(page, 'gwen')
  await waypoint(page, 'Week')
  const groups = page.getByRole('region', { name: 'Groups' })
  await groups.getByRole('button', { name: /1 group of sections/ }).click()
  await groups.getByRole('button', { name: 'Take TIM-1A' }).click()
  await expect.poll(async () => Object.keys(await lineUpOf('gwen')).sort()).toEqual(['MTH 150', 'PHX 140', 'TIM 150', 'WRT 210'])
  const rows = await lineUpOf('gwen')
  const taken = await db.select().from(s.sections).where(eq(s.sections.group, 'TIM-1A'))
  expect(Object.values(rows).flatMap(row => row.sectionIds).sort()).toEqual(taken.map(one => one.id).sort())
  await expect(page.getByRole('region', { name: /Week, days as rows/ }).getByText(/clashes/)).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(async () => Object.keys(await lineUpOf('gwen'))).toEqual([])
})

test('two halves of a term share hours without a clash', async ({ page }) => {
  // Sections that meet at the same hours, one in each half of the term.
  const [first, second] = await Promise.all([sectionOf('WRT 310', '01'), sectionOf('HRT 130', '01')])
  const half = { first: { first: '2027-01-11', last: '2027-03-05' }, second: { first: '2027-03-08', last: '2027-04-30' } }
  const before = await db.select().from(s.meetings)
  const mine = before.filter(one => one.section === first.id || one.section === second.id)
  const put = async (section: typeof first, part: 'first' | 'second') => {
    await db.update(s.sections).set({ session: part }).where(eq(s.sections.id, section.id))
    await db.update(s.meetings).set({ days: ['F'], start: 480, end: 630, ...half[part] }).where(eq(s.meetings.section, section.id))
  }
  await put(first, 'first')
  await put(second, 'second')
  await db.update(s.terms).set({ sectionsVersion: 4001 }).where(eq(s.terms.code, '2027SP'))
  const student = await personOf('bram')
  for (const [position, section] of [first, second].entries())
    await db.insert(s.lineUpRows).values({ student, term: '2027SP', course: section.course, position, sectionIds: [section.id] })
  await signIn(page, 'bram')
  await waypoint(page, 'Week')
  const friday = page.getByRole('list', { name: 'Friday' })
  await expect(friday.getByText('first half').first()).toBeVisible()
  await expect(friday.getByText('second half').first()).toBeVisible()
  await expect(friday.getByText(/clashes/)).toHaveCount(0)
  await db.delete(s.lineUpRows).where(eq(s.lineUpRows.student, student))
  for (const one of mine) await db.update(s.meetings).set(one).where(eq(s.meetings.id, one.id))
  for (const one of [first, second]) await db.update(s.sections).set({ session: one.session }).where(eq(s.sections.id, one.id))
  await db.update(s.terms).set({ sectionsVersion: 4002 }).where(eq(s.terms.code, '2027SP'))
})

test('a pick that was moved or cancelled since is told on Now and in the week, with what else fits', async ({ page }) => {
  const student = await personOf('bram')
  const [moved, gone] = [await sectionOf('ECL 210', '01'), await sectionOf('WRT 210', '02')]
  const seen = [{ days: ['F' as const], start: 480, end: 600, first: '2027-01-11', last: '2027-04-30', site: 'larkmoor',
    room: 'Cairn 101' }]
  await db.insert(s.lineUpRows).values([
    { student, term: '2027SP', course: 'ECL 210', position: 0, sectionIds: [moved.id], seen },
    { student, term: '2027SP', course: 'WRT 210', position: 1, sectionIds: [gone.id] }])
  await db.update(s.sections).set({ cancelled: true }).where(eq(s.sections.id, gone.id))
  await db.update(s.terms).set({ sectionsVersion: 4003 }).where(eq(s.terms.code, '2027SP'))
  await signIn(page, 'bram')
  const todo = page.getByRole('region', { name: 'To do' })
  await expect(todo).toContainText('ECL 210-01 was moved')
  await expect(page.getByText('WRT 210-02 is cancelled.').first()).toBeVisible()
  await page.getByRole('button', { name: /^Take \d\d, / }).last().click()
  await expect.poll(async () => (await lineUpOf('bram'))['WRT 210']!.sectionIds).not.toContain(gone.id)
  await page.getByRole('button', { name: 'Keep it' }).click()
  await expect(page.getByText('ECL 210-01 was moved')).toHaveCount(0)
  await db.update(s.sections).set({ cancelled: false }).where(eq(s.sections.id, gone.id))
  await db.update(s.terms).set({ sectionsVersion: 4004 }).where(eq(s.terms.code, '2027SP'))
  await db.delete(s.lineUpRows).where(eq(s.lineUpRows.student, student))
})

test('on a phone, with one hand: found, looked at and picked', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  await signIn(page, 'perrin')
  await page.getByRole('button', { name: /^Find/ }).click()
  await page.getByRole('textbox', { name: /^Find/ }).fill('ecology')
  const course = panel(page).getByRole('region', { name: /^ECL 210/ })
  await course.getByRole('button', { name: /^ECL 210-03/ }).click()
  const sheet = page.getByRole('dialog', { name: 'Section' })
  await sheet.getByRole('button', { name: 'Pick this bundle' }).click()
  await expect(sheet.getByRole('button', { name: 'Take out of the line-up' })).toBeVisible()
  expect(await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)).toBe(0)
  await db.delete(s.lineUpRows).where(eq(s.lineUpRows.student, await personOf('perrin')))
})
