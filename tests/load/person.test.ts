import { randomUUID } from 'node:crypto'
import { eq, getTableColumns, getTableName, is, sql } from 'drizzle-orm'
import { MySqlTable } from 'drizzle-orm/mysql-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import * as s from '../../server/db/schema'
import { ABOUT } from '../../server/db/store/person'
import { Client, close, db, openAccounts, problemOf } from './client'
import { broken } from './invariants'
import { emptyWeeks, freshStudents, lectureOf, lineUpAll, TERM } from './students'

/** What is kept about a person: all of it in one file for them, and gone for good when they are erased. */
let student: Client
let edda: Client
beforeAll(async () => {
  const ids = await freshStudents(1, 200)
  const [username] = await openAccounts(ids)
  student = await Client.signIn(username!)
  edda = await Client.signIn('edda')
})
afterAll(close)

const TABLES = (Object.values(s) as unknown[]).filter((one): one is MySqlTable => is(one, MySqlTable))
interface Everything { person: { username: string }, tables: Record<string, Record<string, unknown>[]> }
const erase = (username: string, again = username) => edda.call('POST', '/api/people', { username, again })
/** Everything of the database, table by table, as text. */
async function dump(): Promise<Map<string, string>> {
  const all = new Map<string, string>()
  for (const table of TABLES) all.set(getTableName(table), JSON.stringify(await db.select().from(table)))
  return all
}

describe('what is kept about a person', () => {
  it('is a list that no table with a student or a person is missing from', () => {
    const named = TABLES.filter(table => ['student', 'person'].some(name => name in getTableColumns(table))).map(getTableName)
    expect(ABOUT.map(about => getTableName(about.table)).sort()).toEqual(named.sort())
  })

  it('is all in the student\'s own file, without what opens something, and in nobody else\'s', async () => {
    const { section } = await lectureOf('LNG 140', 5)
    const rows = await lineUpAll([student.id], 'LNG 140', [section])
    await student.json('POST', '~/registrations', { term: TERM, key: randomUUID(), rowIds: [rows.get(student.id)!] })
    await db.insert(s.records).values({ student: student.id, course: 'WRT 110', term: '2026SP', credits: 300, grade: 'A',
      state: 'completed',
      source: 'here' })
    await db.insert(s.notes).values([{ student: student.id, author: 1, at: '2026-11-01T10:00:00.000Z', text: 'shown to you', shared: true },
      { student: student.id, author: 1, at: '2026-11-01T10:00:00.000Z', text: 'for those who advise', shared: false }])
    await student.json('POST', '/api/tokens', { name: 'mine', scope: 'read', days: 3 })
    await student.json('POST', '~/feed')
    const all = await student.json<Everything>('GET', '~/everything')
    expect(all.person.username).toBe(student.username)
    expect(all.tables.records).toContainEqual(expect.objectContaining({ course: 'WRT 110', grade: 'A' }))
    expect(all.tables.registrations).toHaveLength(1)
    expect(all.tables.moneyEntries!.length).toBeGreaterThan(0)
    expect(all.tables.ledger!.length).toBeGreaterThan(0)
    const text = JSON.stringify(all)
    expect(text).toContain('shown to you')
    expect(text).not.toContain('for those who advise')
    const [person] = await db.select().from(s.people).where(eq(s.people.id, student.id))
    const [feed] = await db.select().from(s.calendarFeeds).where(eq(s.calendarFeeds.student, student.id))
    for (const secret of [person!.passwordHash!, feed!.secret]) expect(text).not.toContain(secret)
    expect(await problemOf(await edda.call('GET', `/api/students/${student.id}/everything`))).toMatchObject({ status: 403 })
  })

  it('is erased only when nothing is left that others count on, by the name written twice', async () => {
    expect(await problemOf(await erase(student.username, 'another'))).toMatchObject({ status: 422, code: 'not-the-same' })
    expect(await problemOf(await erase('nobody-here'))).toMatchObject({ status: 404, code: 'person-unknown' })
    expect(await problemOf(await erase('edda'))).toMatchObject({ status: 422, code: 'yourself' })
    expect(await problemOf(await erase('hollis'))).toMatchObject({ status: 422, code: 'still-advises' })
    expect(await problemOf(await erase(student.username))).toMatchObject({ status: 422, code: 'still-registered' })
    await student.json('POST', '~/drops', { term: TERM, key: randomUUID(), courses: ['LNG 140'], everything: true })
  })

  it('is gone for good, and the seats, the money and the ledger still add up', async () => {
    const before = await broken(db)
    const [person] = await db.select().from(s.people).where(eq(s.people.id, student.id))
    await db.insert(s.ledger).values({ at: '2026-11-10T16:00:00.000Z', actor: student.id, student: student.id, action: 'ask exception',
      detail: { reason: 'a family matter of mine', course: 'LNG 140' } })
    const lines = await db.$count(s.ledger, eq(s.ledger.student, student.id))
    const cents = async () => (await db.select({ sum: sql<string>`SUM(cents)`, n: sql<number>`COUNT(*)` }).from(s.moneyEntries))[0]
    const money = await cents()
    expect((await erase(student.username)).status).toBe(200)
    const after = await dump()
    for (const [table, text] of after) for (const word of [person!.name, `"${person!.username}"`, person!.email, 'a family matter',
      'for those who advise', 'shown to you']) expect(text.includes(word), `${word} in ${table}`).toBe(false)
    expect(await db.$count(s.ledger, eq(s.ledger.student, student.id))).toBe(lines)
    expect(await cents()).toEqual(money)
    expect(await broken(db)).toEqual(before)
    expect((await student.call('GET', `~?term=${TERM}`)).status).toBe(401)
    expect(await problemOf(await erase(person!.username))).toMatchObject({ status: 404 })
    const found = await edda.json<{ students: unknown[] }>('GET', '/api/people?text=Erased')
    expect(found.students).toEqual([])
    await emptyWeeks([student.id])
  })
})
