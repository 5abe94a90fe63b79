import { and, eq } from 'drizzle-orm'
import * as s from '../../server/db/schema'
import { db, expect, setClock, signIn, signOut, test, waypoint } from './college'

/** The whole journey in one browser: requirement, plan, sign-off, section, opening, registration; then a student who is refused. */
test.describe.configure({ mode: 'serial' })
// As most people have it: with everything that moves.
test.use({ contextOptions: { reducedMotion: 'no-preference' } })

const personOf = async (username: string) => (await db.select().from(s.people).where(eq(s.people.username, username)))[0]!.id
const seatsOf = async (course: string, link: string) => {
  const rows = await db.select({ section: s.sections, pool: s.seatPools }).from(s.sections).innerJoin(s.seatPools,
    eq(s.seatPools.section, s.sections.id))
    .where(and(eq(s.sections.course, course), eq(s.sections.link, link), eq(s.sections.term, '2027SP')))
  return rows.reduce((sum, row) => sum + row.pool.taken, 0)
}

/** Seats left in a bundle: as many as its fullest part has. */
const leftOf = async (course: string, link: string) => {
  const rows = await db.select({ section: s.sections, pool: s.seatPools }).from(s.sections).innerJoin(s.seatPools,
    eq(s.seatPools.section, s.sections.id))
    .where(and(eq(s.sections.course, course), eq(s.sections.link, link), eq(s.sections.term, '2027SP')))
  const left = new Map<number, number>()
  for (const { section, pool } of rows) left.set(section.id, (left.get(section.id) ?? 0) + pool.capacity - pool.taken - pool.held)
  return Math.min(...left.values())
}

test('a student sees an open requirement, finds what fills it, plans it and asks for sign-off', async ({ page }) => {
  await signIn(page, 'tamsin')
  await setClock(page, '2026-11-09T07:50')
  await page.goto('/')
  await expect(page.getByRole('heading', { name: 'Next on your path' })).toBeVisible()
  await waypoint(page, 'Requirements')
  const line = page.getByRole('button', { name: /Mathematics, soils and ecology/ })
  await expect(line).toContainText('2 courses open')
  await line.click()
  const drawer = page.getByRole('region', { name: 'Mathematics, soils and ecology' })
  await expect(drawer).toContainText('Spring 2027, you can take: 2')
  for (const course of ['SOL 201', 'STT 201']) {
    await drawer.getByRole('listitem').filter({ hasText: course }).getByRole('button', { name: 'Place in Spring 2027' }).click()
    await expect(drawer).toContainText(`${course} placed in Spring 2027`)
  }
  await expect(line).toContainText('covered')

  await waypoint(page, 'Plan')
  await expect(page.getByText('Finish Spring 2029')).toBeVisible()
  await expect(page.locator('[data-item^="STT201-2027SP"]')).toBeVisible()
  await waypoint(page, 'Now')
  await page.getByRole('button', { name: 'Ask for sign-off' }).click()
  // The plan answers by itself first.
  const asking = page.getByRole('dialog', { name: /sign off Spring 2027/ })
  await expect(asking).toContainText('Prerequisites come in order, nothing blocks')
  await asking.getByRole('button', { name: 'Ask for it' }).click()
  await expect(page.getByText('asked, not yet given by Hollis Brandt')).toBeVisible()
  const asked = await db.select().from(s.signOffRequests).where(eq(s.signOffRequests.student, await personOf('tamsin')))
  expect(asked.map(row => row.term)).toEqual(['2027SP'])
})

test('the advisor finds the request first in the list and signs off', async ({ page }) => {
  await signIn(page, 'hollis')
  await expect(page.getByRole('heading', { name: 'Advisees' })).toBeVisible()
  const row = page.getByRole('row').filter({ hasText: 'Tamsin Orrell' })
  await expect(row).toContainText('asks for sign-off')
  await row.getByRole('link', { name: 'Tamsin Orrell' }).click()
  const review = page.getByRole('region', { name: 'Review' })
  await expect(review).toContainText('Tamsin Orrell asked for sign-off')
  await expect(review).toContainText('STT 201')
  await review.getByRole('button', { name: 'Sign off Spring 2027' }).click()
  await expect(review).toContainText('Nothing has changed since.')
  const [signed] = await db.select().from(s.signOffs).where(eq(s.signOffs.student, await personOf('tamsin')))
  expect(signed!.copy.map(entry => entry.course).sort()).toEqual(['ECL 210', 'GSP 140', 'HYD 230', 'SOL 201', 'STT 201'])
})

test('the student picks a lecture with its lab, waits for the opening, registers, and the database agrees', async ({ page }) => {
  await signIn(page, 'tamsin')
  await waypoint(page, 'Week')
  const column = page.getByRole('region', { name: 'Bundles of HYD 230' })
  await column.getByRole('button', { name: /HYD 230-02/ }).click()
  await expect(column.getByRole('button', { name: /HYD 230-02/ })).toHaveAttribute('aria-pressed', 'true')
  const ribbon = page.getByRole('region', { name: /Week, days as rows/ })
  await expect(ribbon.getByText('HYD 230-02L lab')).toBeVisible()
  await expect(page.getByLabel('Loading the week')).toHaveCount(0)
  await page.getByRole('region', { name: 'Bundles of STT 201' }).getByRole('button', { name: /STT 201-03/ }).click()
  await expect(page.getByText('STT 201-03 (picked)')).toBeVisible()
  const stated = page.getByRole('region', { name: 'Bundles of HYD 230' }).getByRole('button', { name: /HYD 230-02/ })
  await expect(stated).toContainText(`${await leftOf('HYD 230', '02')} left`)

  await waypoint(page, 'Register')
  const sheet = page.getByRole('list', { name: 'Run sheet' })
  await expect(sheet.getByText('will register')).toHaveCount(3)
  // Before the opening a press would only be armed for it: nothing is registered.
  await expect(page.getByRole('button', { name: 'Register 3 courses at 08:00' })).toBeEnabled()
  await expect(page.getByRole('timer')).toContainText('Opens in')
  await expect(page.getByText(/opens 08:00/)).toBeVisible()
  const before = { hyd: await seatsOf('HYD 230', '02'), stt: await seatsOf('STT 201', '03'), gsp: await seatsOf('GSP 140', '03') }

  await setClock(page, '2026-11-09T08:00')
  await page.getByRole('link', { name: 'Back to my start page' }).click()
  await waypoint(page, 'Register')
  await expect(page.getByRole('button', { name: 'Register 3 courses' })).toBeEnabled()
  await page.getByRole('button', { name: 'Register 3 courses' }).click()
  const result = page.getByRole('status', { name: 'Result of the run' })
  await expect(result).toContainText('3 of 3 registered')
  await expect(page.getByRole('status').filter({ hasText: '3 courses of 3 registered.' })).toBeAttached()
  expect(await page.evaluate(() => document.activeElement === document.body)).toBe(false)
  await expect(page.getByText('The line-up is empty.')).toBeVisible()
  await expect(page.getByText('HYD 230-02 + 02L')).toBeVisible()
  await expect(result).toContainText('3 of 3 registered')

  const student = await personOf('tamsin')
  const held = await db.select().from(s.registrations).where(eq(s.registrations.student, student))
  expect(held.map(row => row.course).sort()).toEqual(['GSP 140', 'GSP 140', 'HYD 230', 'HYD 230', 'STT 201'])
  expect(held.reduce((sum, row) => sum + row.credits, 0)).toBe(1100)
  expect({ hyd: await seatsOf('HYD 230', '02'), stt: await seatsOf('STT 201', '03'), gsp: await seatsOf('GSP 140', '03') }).toEqual({
    hyd: before.hyd + 2,
    stt: before.stt + 1,
    gsp: before.gsp + 2,
  })
  const ledger = await db.select().from(s.ledger).where(and(eq(s.ledger.student, student), eq(s.ledger.action, 'register')))
  expect(ledger.map(entry => entry.section).sort()).toEqual(held.map(row => row.section).sort())

  await waypoint(page, 'Week')
  await expect(column.getByRole('button', { name: /HYD 230-02/ })).toContainText('registered')
  await expect(column.getByRole('button', { name: /HYD 230-02/ })).toContainText('registered')
  await waypoint(page, 'Now')
  await expect(page.getByText('Pay 2,')).toBeVisible()
})

test('a second student is refused a full section and a missing prerequisite, with what to do', async ({ page }) => {
  await signIn(page, 'joss')
  await setClock(page, '2026-11-09T08:05')
  await page.getByRole('link', { name: 'Back to my start page' }).click()
  await waypoint(page, 'Register')
  const sheet = page.getByRole('list', { name: 'Run sheet' })
  const full = sheet.getByRole('listitem').filter({ hasText: 'HRT 150-01' })
  await expect(full).toContainText(/HRT 150-01 is full: \d+ of \d+ seats taken/)
  await expect(full).toContainText(/Choose HRT 150-0\d.*left/)
  const missing = sheet.getByRole('listitem').filter({ hasText: 'HYD 330-01' })
  await expect(missing).toContainText('CHY 220 with C or better, which is not on your record')
  await expect(missing).toContainText('Plan CHY 220 first (fall), or ask your advisor for a prerequisite exception.')
  await page.getByRole('button', { name: 'Register 1 course' }).click()
  const result = page.getByRole('status', { name: 'Result of the run' })
  await expect(result).toContainText('1 of 3 registered')
  const student = await personOf('joss')
  const refusals = await db.select().from(s.ledger).where(and(eq(s.ledger.student, student), eq(s.ledger.action, 'refuse')))
  expect(refusals.map(entry => entry.detail)).toEqual(
    expect.arrayContaining([{ course: 'HRT 150', codes: ['seats-full'] }, { course: 'HYD 330', codes: ['prerequisite'] }]),
  )
  const held = await db.select().from(s.registrations).where(eq(s.registrations.student, student))
  expect(held.map(row => row.course)).toEqual(['ECL 210'])
  await signOut(page)
})
