import { randomUUID } from 'node:crypto'
import { and, eq, isNull, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Everybody } from '../../shared/contract/acts/office'
import { Client, close, db, problemOf } from './client'
import * as s from '../../server/db/schema'

/** The progress of everybody: worked out in threads, told how far it is, given up when asked, and the same as each file by itself. */
let edda: Client
beforeAll(async () => edda = await Client.signIn('edda'))
afterAll(close)

describe('the progress of everybody', () => {
  it('counts every student once and agrees with the advisor\'s own list', async () => {
    const { students, programs } = await edda.json<Everybody>('POST', '/api/office/progress', { work: randomUUID() })
    expect(students.length).toBe(await db.$count(s.people, and(eq(s.people.role, 'student'), isNull(s.people.erased))))
    expect(programs.reduce((sum, one) => sum + one.students, 0)).toBe(students.length)
    const hollis = await Client.signIn('hollis')
    interface Row { id: number, name: string, finish: string | null, earned: number, isWhole: boolean }
    const rows = async () => (await hollis.json<Row[]>('GET', '/api/advisees?term=2027SP'))
    // The list reads requirements while nobody waits for it.
    await expect.poll(async () => (await rows()).every(row => row.isWhole), { timeout: 30_000, interval: 200 }).toBe(true)
    const mine = (await rows()).filter(row => students.some(one => one.id === row.id))
    expect(mine.length).toBeGreaterThan(20)
    for (const { id, name, finish, earned } of mine)
      expect(students.find(one => one.id === id)).toMatchObject({ name, finish, earned })
  })

  it('reads again only the files that changed, and has what changed in them', async () => {
    const ask = () => edda.json<Everybody>('POST', '/api/office/progress', {})
    const before = await ask()
    expect((await ask()).fresh).toBe(0)
    // Somebody whose programs are taken away is finished or not, but not as before; a new name is told without reading the file again.
    const one = before.students.find(student => student.finish === null && student.program !== '')!
    const [other] = before.students.filter(student => student.id !== one.id)
    const { name } = (await db.select().from(s.people).where(eq(s.people.id, other!.id)))[0]!
    const programs = await db.select().from(s.studentPrograms).where(eq(s.studentPrograms.student, one.id))
    await db.delete(s.studentPrograms).where(eq(s.studentPrograms.student, one.id))
    await db.update(s.students).set({ version: sql`${s.students.version} + 1` }).where(eq(s.students.person, one.id))
    await db.update(s.people).set({ name: 'Ister Quill' }).where(eq(s.people.id, other!.id))
    const after = await ask()
    expect(after.fresh).toBe(1)
    expect(after.students.find(student => student.id === one.id)).toMatchObject({ program: '', earned: one.earned })
    expect(after.students.find(student => student.id === other!.id)).toEqual({ ...other, name: 'Ister Quill' })
    await db.update(s.people).set({ name }).where(eq(s.people.id, other!.id))
    await db.insert(s.studentPrograms).values(programs)
    await db.update(s.students).set({ version: sql`${s.students.version} + 1` }).where(eq(s.students.person, one.id))
    expect((await ask()).students).toEqual(before.students)
  })

  it('tells how far it is, is given up when asked, and can be begun again; others are served meanwhile', async () => {
    const tamsin = await Client.signIn('tamsin')
    const work = randomUUID()
    await db.update(s.students).set({ version: sql`${s.students.version} + 1` })
    const asked = edda.call('POST', '/api/office/progress', { work })
    const far = async () => (await edda.json<{ work: { done: number, total: number } | null }>('GET', `/api/work?id=${work}`)).work
    await expect.poll(async () => (await far())?.total ?? 0, { timeout: 30_000, interval: 20 }).toBeGreaterThan(2000)
    expect((await tamsin.call('GET', '~?term=2027SP')).status).toBe(200)
    // Two at once would take the machine from everybody else.
    expect(await problemOf(await edda.call('POST', '/api/office/progress', {}))).toMatchObject({ status: 409, code: 'work-under-way' })
    await edda.json('DELETE', `/api/work?id=${work}`)
    expect(await problemOf(await asked)).toMatchObject({ status: 409, code: 'work-cancelled' })
    expect(await far()).toBeNull()
  })
})
