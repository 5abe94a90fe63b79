import { randomUUID } from 'node:crypto'
import { and, eq, inArray, sql } from 'drizzle-orm'
import * as s from '../../server/db/schema'
import type { RunResult } from '../../shared/contract/acts/student'
import type { Place } from '../../shared/contract/views/student'
import { Client, openAccounts } from '../load/client'
import { emptyWeeks, freshStudents, lectureOf, lineUpAll } from '../load/students'
import { db, expect, setClock, signIn, test, waypoint } from './college'

/** The opening minute lived through: armed before it, with a crowd beside, on seats that are running out; and an offer that lapses. */
test.describe.configure({ mode: 'serial' })
const TERM = '2027SP'
let clock: typeof s.clockSetting.$inferSelect
test.beforeAll(async () => {
  clock = (await db.select().from(s.clockSetting))[0]!
})
test.afterAll(async () => {
  await db.delete(s.crowdPresses)
  await db.update(s.clockSetting).set(clock)
})

/** Somebody of the wave of 08:00 without a record that could stand in the way, with four courses lined up. */
async function studentWithLineUp() {
  const [template] = await db.select().from(s.people).where(eq(s.people.username, 'tamsin'))
  const [person] = await db.select({ id: s.people.id, username: s.people.username }).from(s.people)
    .where(sql`${s.people.username} LIKE 's1%' AND ${s.people.passwordHash} IS NULL
      AND NOT EXISTS (SELECT 1 FROM registrations r WHERE r.student = ${s.people.id})`).orderBy(s.people.id).limit(1)
  const { id } = person!
  await db.update(s.people).set({ passwordHash: template!.passwordHash }).where(eq(s.people.id, id))
  await db.delete(s.records).where(eq(s.records.student, id))
  const passed = ['VAL 110', 'PHX 140', 'TIM 110', 'CHY 110', 'GSP 120', 'ECL 110', 'WRT 110', 'HYD 110', 'MTH 140', 'HRT 110']
  await db.insert(s.records).values(passed.map(course => ({ student: id, course, term: '2026SP', credits: 300, grade: 'B',
    state: 'completed' as const, source: 'here' as const })))
  const at = '2026-11-01T12:00:00.000Z'
  await db.update(s.students).set({ programConfirmed: true }).where(eq(s.students.person, id))
  await db.insert(s.signOffs).ignore().values({ student: id, term: TERM, advisor: 1, at, note: '', copy: [] })
  await db.insert(s.termsAcceptances).ignore().values({ student: id, term: TERM, at })
  // Lectures that stand alone and ask for nothing, none of which clash: evenings and online ones would do as well.
  const rows = await db.select({ id: s.sections.id, course: s.sections.course, start: sql<number>`MIN(${s.meetings.start})`,
    days: sql<string>`MIN(${s.meetings.days})` }).from(s.sections).innerJoin(s.courses, eq(s.courses.code, s.sections.course))
    .leftJoin(s.meetings, eq(s.meetings.section, s.sections.id))
    .where(and(eq(s.sections.term, TERM), eq(s.courses.prerequisite, ''), eq(s.courses.corequisite, ''), eq(s.courses.parts, ['lecture']),
      eq(s.sections.cancelled, false), eq(s.sections.delivery, 'online any time'), sql`${s.sections.seatsWith} IS NULL`))
    .groupBy(s.sections.id).orderBy(s.sections.course, s.sections.id)
  const online = rows.filter((row, i, all) => !passed.includes(row.course) && all.findIndex(one => one.course === row.course) === i)
  const others = await db.select().from(s.sections).where(and(eq(s.sections.term, TERM), eq(s.sections.cancelled, false),
    inArray(s.sections.course, online.map(one => one.course)), sql`${s.sections.seatsWith} IS NULL`)).orderBy(s.sections.id)
  const backupOf = (course: string, section: number) => others.find(one => one.course === course && one.id !== section)?.id
  const withBackup = online.find(one => backupOf(one.course, one.id) !== undefined)!
  const [free, waits] = online.filter(one => one !== withBackup) as [typeof online[0], typeof online[0]]
  const open = async (section: number, capacity: number) => {
    await db.update(s.sections).set({ onlyPrograms: [], onlyStandings: [], onlyCohorts: [], waitlistCapacity: 30 }).where(eq(s.sections.id,
      section))
    await db.update(s.seatPools).set({ capacity: capacity === 0 ? sql`taken + held` : sql`taken + held + ${capacity}`, forGroup: null })
      .where(eq(s.seatPools.section, section))
  }
  const backup = backupOf(withBackup.course, withBackup.id)!
  for (const [section, seats] of [[free.id, 60], [withBackup.id, 0], [backup, 60], [waits.id, 0]] as const) await open(section, seats)
  await db.update(s.terms).set({ sectionsVersion: sql`${s.terms.sectionsVersion} + 1` }).where(eq(s.terms.code, TERM))
  await db.delete(s.lineUpRows).where(eq(s.lineUpRows.student, id))
  const row = (course: string, position: number, sectionIds: number[], more: object = {}) => ({ student: id, term: TERM, course, position,
    sectionIds, backups: [] as number[][], waitIfFull: false, ...more })
  await db.insert(s.lineUpRows).values([row(free.course, 0, [free.id]), row(withBackup.course, 1, [withBackup.id], { backups: [[backup]] }),
    row(waits.course, 2, [waits.id], { waitIfFull: true })])
  return { ...person!, free, withBackup, backup, waits }
}

test('armed before the opening it goes by itself in the first moment, with the crowd beside: a seat, a backup, a waitlist',
  async ({ page }) => {
    test.setTimeout(120_000)
    const student = await studentWithLineUp()
    await signIn(page, student.username)
    await setClock(page, '2026-11-09T07:58')
    await page.getByLabel('Students').fill('40')
    await page.getByLabel('Presses a second').fill('20')
    await page.getByRole('button', { name: 'Line them up' }).click()
    await expect(page.getByText(/4?\d students will press from Mon 9 Nov, 08:00:0/)).toBeVisible({ timeout: 20_000 })
    // A little before the opening, so that a slow machine is in time too.
    await db.update(s.clockSetting).set({ demoNow: '2026-11-09T14:59:35.000Z', setAt: new Date().toISOString() })
    await page.goto('/')
    await waypoint(page, 'Register')
    await page.getByRole('button', { name: 'Register 2 courses, join 1 waitlist at 08:00' }).click()
    const armed = page.getByRole('button', { name: 'Armed for 08:00' })
    await expect(armed).toBeVisible()
    // A second press in haste does nothing more; taking it back is another act.
    await armed.click()
    await page.getByRole('button', { name: 'take it back' }).click()
    await page.getByRole('button', { name: 'Register 2 courses, join 1 waitlist at 08:00' }).click()
    await armed.click()
    expect(await db.select().from(s.registrations).where(eq(s.registrations.student, student.id))).toEqual([])
    const result = page.getByRole('status', { name: 'Result of the run' })
    await expect(result).toBeVisible({ timeout: 40_000 })
    await expect(result).toContainText('2 of 3 registered · 08:00:0')
    await expect(result).toContainText('registered, with backup 1')
    await expect(result).toContainText(/on the waitlist, \d+(st|nd|rd|th)/)
    const held = await db.select().from(s.registrations).where(eq(s.registrations.student, student.id))
    expect(held.map(row => row.section).sort((a, b) => a - b)).toEqual([student.free.id, student.backup].sort((a, b) => a - b))
    expect(await db.select().from(s.registrationRuns).where(eq(s.registrationRuns.student, student.id))).toHaveLength(1)
    // The crowd came too, and nobody has a seat that there is not.
    await expect.poll(async () => (await db.select().from(s.crowdPresses)).filter(press => press.state === 'done').length,
      { timeout: 30_000 })
      .toBeGreaterThan(20)
    expect(await db.select().from(s.seatPools).where(sql`taken + held > capacity`)).toEqual([])
  })

test('in a crowd the page tells the place in line, then what was registered, and the rest a little later or at once',
  async ({ page }) => {
    const [own, ...others] = await freshStudents(40, 330) as [number, ...number[]]
    const { section, pool } = await lectureOf('LNG 140', 60)
    const rows = await lineUpAll([own, ...others], 'LNG 140', [section])
    const [name, ...names] = await openAccounts([own, ...others]) as [string, ...string[]]
    const clients = await Promise.all(names.map(one => Client.signIn(one)))
    await signIn(page, name)
    await waypoint(page, 'Register')
    const press = page.getByRole('button', { name: 'Register 1 course', exact: true })
    await expect(press).toBeEnabled()
    const keys = clients.map(() => randomUUID())
    const pressOf = (i: number) => clients[i]!.json<RunResult>('POST', '~/registrations',
      { term: TERM, key: keys[i], rowIds: [rows.get(clients[i]!.id)] })
    const placeOf = async (i: number) => (await clients[i]!.json<Place>('GET', `~/registrations?key=${keys[i]}`)).before
    const before = 8
    const pressed: Promise<RunResult>[] = []
    // Somebody holds the seats, so that all stand in line: a few before this page, many after it.
    await db.transaction(async (tx) => {
      await tx.execute(sql`SELECT id FROM seat_pools WHERE id = ${pool} FOR UPDATE`)
      for (let i = 0; i < before; i++) pressed.push(pressOf(i))
      await expect.poll(() => placeOf(before - 1)).not.toBeNull()
      await press.click()
      await expect(page.getByRole('button', { name: 'Registering…' })).toBeVisible()
      await expect(page.getByRole('timer')).toHaveText(/^\d people before you in line.*Leave this page open\.$/)
      for (let i = before; i < clients.length; i++) pressed.push(pressOf(i))
      await expect.poll(() => placeOf(clients.length - 1)).toBeGreaterThan(before)
      expect(await db.select().from(s.registrations).where(eq(s.registrations.student, own))).toEqual([])
    })
    const result = page.getByRole('status', { name: 'Result of the run' })
    await expect(result).toContainText('1 of 1 registered')
    await expect(result).toContainText('a little later, by themselves')
    await result.getByText('Show it now').click()
    await expect(result).not.toContainText('a little later')
    await expect(page.getByRole('list', { name: 'Registered and waited for' })).toContainText('LNG 140')
    for (const one of await Promise.all(pressed)) expect(one.rows[0]!.outcome).toBe('register')
    const registered = await db.select().from(s.registrations).where(eq(s.registrations.section, section))
    expect(registered.map(row => row.student).sort((a, b) => a - b)).toEqual([own, ...others].sort((a, b) => a - b))
    expect((await db.select().from(s.seatPools).where(eq(s.seatPools.id, pool)))[0]!.taken).toBe(40)
    await emptyWeeks([own, ...others])
  })

test('an offer that nobody takes lapses at its hour, and the page tells', async ({ page }) => {
  const [ned] = await db.select().from(s.people).where(eq(s.people.username, 'ned'))
  const [offer] = await db.select().from(s.waitlistEntries).where(eq(s.waitlistEntries.student, ned!.id))
  await signIn(page, 'ned')
  await setClock(page, '2026-11-10T14:00')
  await page.goto(`/student/${ned!.id}/register`)
  const soFar = page.getByRole('list', { name: 'Registered and waited for' })
  await expect(soFar).toContainText(/seat offer, \d+:\d\d left|seat offer, 0 h|seat offer/)
  await db.update(s.clockSetting).set({ demoNow: '2026-11-10T21:50:01.000Z', setAt: new Date().toISOString() })
  await expect(soFar.getByRole('button', { name: /Take the seat/ })).toHaveCount(0, { timeout: 20_000 })
  expect(await db.select().from(s.waitlistEntries).where(eq(s.waitlistEntries.student, ned!.id))).toEqual([])
  const told = await db.select().from(s.ledger).where(and(eq(s.ledger.student, ned!.id), eq(s.ledger.action, 'offer lapsed')))
  expect(told).toHaveLength(1)
  // Back to the offer, which other journeys begin with.
  const [pool] = await db.select().from(s.seatPools).where(eq(s.seatPools.id, offer!.offerPool!))
  await db.update(s.seatPools).set({ held: pool!.held + 1, capacity: Math.max(pool!.capacity, pool!.taken + pool!.held + 1) })
    .where(eq(s.seatPools.id, pool!.id))
  await db.insert(s.waitlistEntries).values(offer!)
})
