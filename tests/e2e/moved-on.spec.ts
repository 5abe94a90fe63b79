import { and, eq } from 'drizzle-orm'
import * as s from '../../server/db/schema'
import { db, expect, setClock, signIn, test, waypoint } from './college'

/** Things that change behind an open page: what the person on it sees, and what the database holds then. */
test.describe.configure({ mode: 'serial' })

const TERM = '2027SP'
let clock: typeof s.clockSetting.$inferSelect
test.beforeAll(async () => {
  clock = (await db.select().from(s.clockSetting))[0]!
})
// The other journeys begin in the minutes before the opening.
test.afterAll(() => db.update(s.clockSetting).set(clock))
const personOf = async (username: string) => (await db.select().from(s.people).where(eq(s.people.username, username)))[0]!
const planOf = async (student: number) =>
  (await db.select().from(s.plans).where(and(eq(s.plans.student, student), eq(s.plans.current, true))))[0]!
const held = (student: number) => db.select().from(s.registrations).where(eq(s.registrations.student, student))

/** What the browser says of connections that the test itself cut. */
const forgetCuts = (complaints: string[]) =>
  complaints.splice(0, complaints.length, ...complaints.filter(text => !text.includes('ERR_FAILED')))

test('an advisor who did not hear of a change signs off nothing unseen, and signs what stands there then', async ({ page, complaints }) => {
  const { id } = await personOf('kerra')
  const plan = await planOf(id)
  await signIn(page, 'hollis')
  // News do not come through; the plan is asked for no more.
  await page.route('**/api/students/*/news', route => route.abort())
  await page.goto(`/student/${id}/requirements`)
  const review = page.getByRole('region', { name: 'Review' })
  await expect(review.getByRole('button', { name: 'Sign off Spring 2027' })).toBeVisible()
  await db.insert(s.planEntries).values({ plan: plan.id, id: 'unseen', course: 'LNG 140', term: TERM, credits: 300, pinned: false,
    pinnedUse: null, note: '' })
  await expect(review).not.toContainText('LNG 140')
  await review.getByRole('button', { name: 'Sign off Spring 2027' }).click()
  await expect(review.getByRole('alert')).toContainText('has changed since you looked: LNG 140 was added')
  await expect(review).toContainText('LNG 140')
  expect(await db.select().from(s.signOffs).where(eq(s.signOffs.student, id))).toEqual([])
  await review.getByRole('button', { name: 'Sign off Spring 2027' }).click()
  await expect(review).toContainText('Nothing has changed since.')
  const [signed] = await db.select().from(s.signOffs).where(eq(s.signOffs.student, id))
  expect(signed!.copy.map(entry => entry.course)).toContain('LNG 140')
  forgetCuts(complaints)
})

test('a session that ended elsewhere leads to the sign-in page by itself, and back', async ({ page }) => {
  const { id } = await personOf('kerra')
  await signIn(page, 'kerra')
  await waypoint(page, 'Plan')
  await expect(page.getByText('LNG 140').first()).toBeVisible()
  await db.delete(s.sessions).where(eq(s.sessions.person, id))
  await expect(page.getByText('your session has ended')).toBeVisible({ timeout: 20_000 })
  await page.getByLabel('Name').fill('kerra')
  await page.getByLabel('Password').fill('larkmoor')
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(page).toHaveURL(new RegExp(`/student/${id}/plan`))
})

test('a file that is no longer an advisor\'s closes under their eyes', async ({ page }) => {
  const [sable, hollis, yara] = [await personOf('sable'), await personOf('hollis'), await personOf('yara')]
  await signIn(page, 'hollis')
  await page.goto(`/student/${sable.id}/requirements`)
  await expect(page.getByRole('region', { name: 'Review' })).toBeVisible()
  await db.update(s.students).set({ advisor: yara.id }).where(eq(s.students.person, sable.id))
  await expect(page.getByRole('alert')).toContainText('This is not open to you.', { timeout: 20_000 })
  await expect(page.getByText('Sable Hurst')).toHaveCount(0)
  await db.update(s.students).set({ advisor: hollis.id }).where(eq(s.students.person, sable.id))
})

test('a press whose answer is lost is sent again with the same key, and acts once', async ({ page, complaints }) => {
  const { id } = await personOf('una')
  const [chosen] = await db.select().from(s.sections).innerJoin(s.seatPools, eq(s.seatPools.section, s.sections.id))
    .where(and(eq(s.sections.course, 'LNG 140'), eq(s.sections.term, TERM), eq(s.sections.cancelled, false)))
  await db.update(s.seatPools).set({ capacity: chosen!.seat_pools.taken + 5 }).where(eq(s.seatPools.id, chosen!.seat_pools.id))
  await db.delete(s.lineUpRows).where(eq(s.lineUpRows.student, id))
  await db.insert(s.lineUpRows).values({ student: id, term: TERM, course: 'LNG 140', position: 0, sectionIds: [chosen!.sections.id] })
  await signIn(page, 'una')
  await setClock(page, '2026-11-10T09:00')
  await page.getByRole('link', { name: 'Back to my start page' }).click()
  await waypoint(page, 'Register')
  const button = page.getByRole('button', { name: 'Register 1 course' })
  await expect(button).toBeEnabled()
  let lost = 0
  await page.route('**/registrations*', async (route) => {
    await route.fetch()
    lost++
    await route.abort()
  })
  await button.click()
  await expect(page.getByRole('alert')).toContainText('Ridgeway cannot be reached.')
  expect(lost).toBe(1)
  expect((await held(id)).map(row => row.course)).toEqual(['LNG 140'])
  await page.unroute('**/registrations*')
  // The seat is told of meanwhile, and so is that the press has no answer yet.
  await expect(page.getByText('The line-up is empty.')).toBeVisible()
  await expect(page.getByRole('alert')).toContainText('can be sent again')
  await page.getByRole('button', { name: 'Try again' }).click()
  await expect(page.getByRole('status', { name: 'Result of the run' })).toContainText('1 of 1 registered')
  expect((await held(id)).map(row => row.course)).toEqual(['LNG 140'])
  const runs = await db.select().from(s.registrationRuns).where(eq(s.registrationRuns.student, id))
  expect(runs.length).toBe(1)
  forgetCuts(complaints)
})

test('the opening passes while Register is open: it is said, and what was closed for the hour alone is open', async ({ page }) => {
  await signIn(page, 'una')
  await page.evaluate(now => fetch('/api/standins/clock', { method: 'PUT', headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ now }) }), '2026-11-09T14:59:54Z')
  await page.reload()
  await waypoint(page, 'Register')
  await expect(page.getByRole('timer')).toContainText('Opens in')
  await expect(page.getByRole('status').filter({ hasText: 'Spring 2027 is open for you now.' })).toBeAttached({ timeout: 20_000 })
  await expect(page.getByRole('timer')).toHaveCount(0)
  await expect(page.getByRole('region', { name: 'Gates' })).toContainText('open since')
})
