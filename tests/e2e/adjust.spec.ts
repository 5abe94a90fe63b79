import { and, eq } from 'drizzle-orm'
import * as s from '../../server/db/schema'
import { db, expect, signIn, test, waypoint } from './college'

/** After registering: a course is given up, exchanged, and an offered seat taken; the database agrees each time. */
const idOf = async (username: string) => (await db.select().from(s.people).where(eq(s.people.username, username)))[0]!.id
async function registeredOf(username: string) {
  const rows = await db.select({ course: s.registrations.course, label: s.sections.label }).from(s.registrations)
    .innerJoin(s.sections, eq(s.sections.id, s.registrations.section))
    .where(and(eq(s.registrations.student, await idOf(username)), eq(s.registrations.term, '2027SP')))
  return rows.map(row => `${row.course}-${row.label}`).sort()
}

test('a course is given up with its consequences told before; nothing happens until it is said', async ({ page }) => {
  await signIn(page, 'maren')
  await waypoint(page, 'Register')
  const soFar = page.getByRole('list', { name: 'Registered and waited for' })
  await expect(soFar.getByRole('listitem')).toHaveCount(4)
  await soFar.getByRole('button', { name: 'Give up WRT 310' }).click()
  const dialog = page.getByRole('dialog', { name: 'Give up WRT 310?' })
  await expect(dialog).toContainText(/Until \d+ \w+ 2027 it leaves no trace on the record\./)
  await expect(dialog).toContainText(/\d+ of \d+ credits are left/)
  await dialog.getByRole('button', { name: 'Leave it as it is' }).click()
  await expect(dialog).toHaveCount(0)
  expect(await registeredOf('maren')).toContain('WRT 310-01')
  await soFar.getByRole('button', { name: 'Give up WRT 310' }).click()
  await dialog.getByRole('button', { name: 'Drop WRT 310' }).click()
  await expect(dialog).toHaveCount(0)
  await expect(soFar.getByRole('listitem')).toHaveCount(3)
  expect(await registeredOf('maren')).not.toContain('WRT 310-01')
  await page.reload()
  await expect(soFar.getByRole('listitem')).toHaveCount(3)
})

test('an exchange that is refused keeps the first; one that works has only the second', async ({ page }) => {
  const student = await idOf('maren')
  const [full] = await db.select().from(s.sections).where(and(eq(s.sections.course, 'HRT 150'), eq(s.sections.label, '01'),
    eq(s.sections.term, '2027SP')))
  await db.insert(s.lineUpRows).values({ student, term: '2027SP', course: 'HRT 150', position: 0, sectionIds: [full!.id] })
  await signIn(page, 'maren')
  await waypoint(page, 'Register')
  const exchange = page.getByRole('button', { name: 'Exchange HRT 230' })
  await exchange.click()
  const dialog = page.getByRole('dialog', { name: 'Exchange HRT 230' })
  const choose = async (name: RegExp) => {
    await dialog.getByRole('combobox', { name: 'Instead' }).click({ force: true })
    await page.getByRole('option', { name }).first().click()
    await dialog.getByRole('button', { name: 'Exchange: both or neither' }).click()
  }
  await choose(/^HRT 150-01/)
  await expect(dialog.getByRole('alert')).toContainText('Nothing is changed:')
  expect(await registeredOf('maren')).toContain('HRT 230-01')
  await choose(/^HRT 230-\d+.*any time/)
  await expect(dialog).toHaveCount(0)
  await expect.poll(async () => (await registeredOf('maren')).filter(one => one.startsWith('HRT 230'))).toEqual([
    expect.stringMatching(/^HRT 230-(?!01)/)])
  await db.delete(s.lineUpRows).where(eq(s.lineUpRows.student, student))
})

test('a seat that is offered is taken before it lapses, and nobody else has it', async ({ page }) => {
  await signIn(page, 'ned')
  await waypoint(page, 'Register')
  const soFar = page.getByRole('list', { name: 'Registered and waited for' })
  await expect(soFar).toContainText(/seat offer, \d+ h( \d+ min)? left/)
  await soFar.getByRole('button', { name: 'Take the seat in HRT 230' }).click()
  await expect(soFar.getByRole('button', { name: 'Give up HRT 230' })).toBeVisible()
  await expect(soFar).not.toContainText('seat offer')
  expect(await registeredOf('ned')).toContain('HRT 230-01')
  expect(await db.select().from(s.waitlistEntries).where(eq(s.waitlistEntries.student, await idOf('ned')))).toEqual([])
  const [section] = await db.select().from(s.sections).where(and(eq(s.sections.course, 'HRT 230'), eq(s.sections.label, '01'),
    eq(s.sections.term, '2027SP')))
  const pools = await db.select().from(s.seatPools).where(eq(s.seatPools.section, section!.id))
  expect(pools.reduce((sum, pool) => sum + pool.held, 0)).toBe(0)
  // Back to the offer, which other journeys begin with.
  const student = await idOf('ned')
  const [pool] = pools
  await db.delete(s.registrations).where(and(eq(s.registrations.student, student), eq(s.registrations.section, section!.id)))
  const money = await db.select().from(s.moneyEntries).where(eq(s.moneyEntries.student, student)).orderBy(s.moneyEntries.id)
  expect(money.at(-1)).toMatchObject({ kind: 'charge', courses: [{ course: 'HRT 230' }] })
  await db.delete(s.moneyEntries).where(eq(s.moneyEntries.id, money.at(-1)!.id))
  await db.update(s.seatPools).set({ taken: pool!.taken - 1, held: 1 }).where(eq(s.seatPools.id, pool!.id))
  await db.insert(s.waitlistEntries).values({ student, section: section!.id, joined: '2026-11-08T15:04:00.000Z',
    offerUntil: '2026-11-10T21:50:00.000Z', offerPool: pool!.id, bundle: [section!.id] })
})
