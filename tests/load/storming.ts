import { randomUUID } from 'node:crypto'
import { and, asc, eq, inArray, sql } from 'drizzle-orm'
import { expect } from 'vitest'
import { Random } from '../../demo/random'
import type { connect } from '../../server/db/connect'
import { isConnectionLost } from '../../server/db/failures'
import * as s from '../../server/db/schema'
import type { ChangeResult, RunResult } from '../../shared/contract/acts/student'
import { Client, TERM } from './caller'

/** Keys under which somebody was answered, and by whom. */
export type Told = Map<string, number>

const SECTIONS = 60

/**
 * Many students at once, on few seats, through two servers: they register with backups and waitlists, exchange, wait for exchanges, decide
 * offers beforehand, take and leave them, drop and leave the term. What is done to servers and databases meanwhile is for others to say.
 */
export class Storm {
  private clients: Client[] = []
  /** Bundles that can be chosen, by course. */
  private bundles = new Map<string, number[][]>()

  /** `open` is how the tables are looked at, `addresses` where the servers are; both may change while it goes on. */
  constructor(public open: ReturnType<typeof connect>, public addresses: readonly string[], private readonly count: number) {}

  /** Makes students and sections ready and signs everybody in. */
  async prepare(): Promise<void> {
    const ids = await this.prepareStudents()
    await this.prepareSections()
    const names = await this.openAccounts(ids)
    for (let i = 0; i < names.length; i += 10)
      this.clients.push(...await Promise.all(names.slice(i, i + 10).map((name, n) =>
        Client.signIn(name, 'larkmoor', this.addresses[n % this.addresses.length]))))
  }

  clientOf = (student: number) => this.clients.find(client => client.id === student)

  /** Students without a record, registered for nothing, with every gate open. */
  private async prepareStudents(): Promise<number[]> {
    const { db } = this.open
    const rows = await db.select({ id: s.people.id }).from(s.people).where(sql`${s.people.username} LIKE 's0%'`).orderBy(asc(s.people.id))
    const all = rows.map(row => row.id)
    const ids = all.slice(0, this.count)
    // Nobody else has a seat: what the storm comes to is all there is.
    for (const table of [s.registrations, s.waitlistEntries, s.ledger, s.moneyEntries]) await db.delete(table)
    await db.update(s.seatPools).set({ taken: 0, held: 0 })
    for (const table of [s.records, s.lineUpRows, s.holds]) await db.delete(table).where(inArray(table.student, ids))
    await db.update(s.students).set({ programConfirmed: true }).where(inArray(s.students.person, ids))
    const at = '2026-11-01T12:00:00.000Z'
    for (const table of [s.signOffs, s.termsAcceptances]) await db.delete(table).where(inArray(table.student, ids))
    await db.insert(s.signOffs).values(ids.map(student => ({ student, term: TERM, advisor: 1, at, note: '', copy: [] })))
    await db.insert(s.termsAcceptances).values(ids.map(student => ({ student, term: TERM, at })))
    await this.setClock('2026-11-10T16:00:00.000Z')
    return ids
  }

  /** So many sections with few seats, bundles with a lab among them, some seats kept for a program. */
  private async prepareSections(): Promise<void> {
    const { db } = this.open
    const random = new Random(5)
    const rows = await db.select({ id: s.sections.id, course: s.sections.course, link: s.sections.link, part: s.sections.part,
      parts: s.courses.parts }).from(s.sections).innerJoin(s.courses, eq(s.courses.code, s.sections.course))
      .where(and(eq(s.sections.term, TERM), eq(s.courses.prerequisite, ''), eq(s.courses.corequisite, ''), eq(s.sections.cancelled, false),
        sql`${s.sections.seatsWith} IS NULL`)).orderBy(s.sections.course, s.sections.link, s.sections.id)
    const found = this.bundles
    let count = 0
    const byBundle = new Map<string, typeof rows>()
    for (const row of rows) byBundle.set(`${row.course} ${row.link}`, [...byBundle.get(`${row.course} ${row.link}`) ?? [], row])
    // Those with a lab first: they are the harder case.
    const list = [...byBundle.values()].filter(one => one.length === one[0]!.parts.length).sort((a, b) => b.length - a.length)
    for (const bundle of list) {
      if (count + bundle.length > SECTIONS) continue
      const { course } = bundle[0]!
      const mine = bundle.map(one => one.id)
      count += mine.length
      found.set(course, [...found.get(course) ?? [], mine])
      await db.update(s.sections).set({ waitlistCapacity: 12, onlyPrograms: [], onlyStandings: [], onlyCohorts: [],
        gradingModes: ['letter', 'pass'] }).where(inArray(s.sections.id, mine))
      const pools = await db.select().from(s.seatPools).where(inArray(s.seatPools.section, mine))
      for (const pool of pools) await db.update(s.seatPools).set({ capacity: 2 + upTo(random, 4) }).where(eq(s.seatPools.id, pool.id))
    }
    await db.update(s.terms).set({ sectionsVersion: sql`${s.terms.sectionsVersion} + 1` }).where(eq(s.terms.code, TERM))
    expect(count).toBeGreaterThan(SECTIONS - 4)
  }

  private async openAccounts(ids: readonly number[]): Promise<string[]> {
    const { db } = this.open
    const [template] = await db.select().from(s.people).where(eq(s.people.username, 'tamsin'))
    await db.update(s.people).set({ passwordHash: template!.passwordHash }).where(inArray(s.people.id, [...ids]))
    return (await db.select().from(s.people).where(inArray(s.people.id, [...ids])).orderBy(s.people.id)).map(person => person.username)
  }

  setClock = (demoNow: string) => this.open.db.update(s.clockSetting).set({ demoNow, setAt: new Date().toISOString() })

  /** One student does something that they could do; whatever is answered is an answer in words. */
  private async act(client: Client, random: Random, told: Told): Promise<void> {
    const { db } = this.open
    const at = client.at(this.addresses[upTo(random, this.addresses.length)]!)
    const key = randomUUID()
    const answer = async (method: string, path: string, body?: unknown) => {
      try {
        const response = await at.call(method, path, body)
        if (response.ok && body && typeof body === 'object' && 'key' in body) {
          const { answer: result } = await response.json() as { answer: ChangeResult | RunResult }
          // A change that was refused is not kept: it may be asked again.
          if ('rows' in result || result.done || result.waits) told.set(key, client.id)
        }
        else if (response.status >= 500 && response.status !== 503)
          throw new Error(`${method} ${path}: ${response.status} ${await response.text()}`)
      }
      catch (problem) {
        // A server that was killed answers nothing; what became of it is seen in the tables.
        if (!(problem instanceof TypeError)) throw problem
      }
    }
    const held = await db.select().from(s.registrations).where(eq(s.registrations.student, client.id))
    const waits = await db.select().from(s.waitlistEntries).where(eq(s.waitlistEntries.student, client.id))
    const courses = [...new Set(held.map(row => row.course))]
    const pick = <T>(list: readonly T[]): T => list[upTo(random, list.length)]!
    const other = () => pick([...this.bundles])
    const offered = waits.find(entry => entry.offerUntil !== null)
    const chance = upTo(random, 10)
    if (offered && chance < 6) {
      if (chance < 4) return answer('POST', '~/offers', { term: TERM, key, entry: offered.id, drops: chance === 0
        ? courses.slice(0,
            1)
        : [] })
      return answer('DELETE', `~/waitlist?term=${TERM}&entry=${offered.id}`)
    }
    if (waits.length > 0 && chance === 6)
      return answer('PUT', '~/waitlist', { term: TERM, entry: pick(waits).id, exchange: upTo(random, 2) ? courses.slice(0, 1) : [] })
    if (courses.length > 0 && chance === 7)
      return answer('POST', '~/drops', { term: TERM, key, courses: upTo(random, 3) ? [pick(courses)] : courses, everything: upTo(random,
        3) > 0 })
    if (courses.length > 0 && chance >= 8) {
      const [course, choices] = other()
      if (upTo(random, 4) === 0)
        return answer('PUT', '~/registrations', { term: TERM, key, course: pick(courses), grading: upTo(random, 2) ? 'pass' : 'letter' })
      return answer('POST', '~/exchanges', { term: TERM, key, drops: [pick(courses)], course, sectionIds: pick(choices), wait: upTo(random,
        2) > 0 })
    }
    const chosen = [other(), other()].filter(([course], i, all) =>
      all.findIndex(one => one[0] === course) === i && !courses.includes(course))
    if (chosen.length === 0) return
    await answer('PUT', '~/line-up', { term: TERM, choices: chosen.map(([course, choices]) => ({ course, sectionIds: pick(choices),
      backups: choices.length > 1 ? [pick(choices)] : [] })) })
    for (const [course] of chosen) await answer('PUT', '~/line-up/row', { term: TERM, course, waitIfFull: upTo(random, 3) > 0 })
    const rows = await db.select().from(s.lineUpRows).where(eq(s.lineUpRows.student, client.id))
    if (rows.length === 0) return
    const press = { term: TERM, key, rowIds: rows.map(row => row.id) }
    await Promise.all(upTo(random, 5) === 0
      ? [answer('POST', '~/registrations', press), answer('POST', '~/registrations', press)]
      : [answer('POST', '~/registrations', press)])
  }

  /** All of them act until the time is over and what happens beside them is done, however slow a machine is. */
  async blow(milliseconds: number, seed: number, beside: (reached: (n: number) => Promise<void>) => Promise<void>): Promise<Told> {
    const told: Told = new Map()
    const until = Date.now() + milliseconds
    const reached = (n: number) => expect.poll(() => told.size, { timeout: 90_000, interval: 20 }).toBeGreaterThanOrEqual(n)
    let isDone = false
    await Promise.all([beside(reached).finally(() => isDone = true), ...this.clients.map(async (client, i) => {
      const random = new Random(seed + i)
      while (Date.now() < until || !isDone) await this.act(client, random, told).catch(passOver)
    })])
    return told
  }

  /** The waitlists are served beside everything else: what is left to do is waited for. */
  calm = () => expect.poll(async () => {
    const [freed] = await this.open.db.select({ n: sql<number>`count(*)` }).from(s.freedSeats)
    return Number(freed!.n)
  }, { timeout: 60_000, interval: 200 }).toBe(0)

  /** Every answer that somebody was given stands in the tables. */
  async missing(told: Told): Promise<string[]> {
    const rows = await this.open.db.select({ key: s.registrationRuns.key, student: s.registrationRuns.student }).from(s.registrationRuns)
    const kept = new Set(rows.map(row => `${row.student} ${row.key}`))
    return [...told].filter(([key, student]) => !kept.has(`${student} ${key}`)).map(([key]) => key)
  }
}

/** A whole number from 0 to below `n`. */
const upTo = (random: Random, n: number) => random.between(0, n - 1)

/** While the database is away, looking into its tables fails too. */
async function passOver(problem: unknown): Promise<void> {
  if (!isConnectionLost(problem)) throw problem
  await new Promise(next => setImmediate(next))
}
