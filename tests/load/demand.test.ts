import { and, eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { CourseStory, Demand } from '../../shared/contract/views/demand'
import * as s from '../../server/db/schema'
import { Client, close, db, problemOf } from './client'
import { TERM } from './students'

/** What students ask of a term, against the tables; what they will ask of one without sections. */
let edda: Client
let demand: Demand
beforeAll(async () => {
  edda = await Client.signIn('edda')
  demand = await edda.json<Demand>('GET', `/api/demand?term=${TERM}`)
})
afterAll(close)
const count = async (query: ReturnType<typeof sql>) => Number((await db.execute(query) as unknown as [{ n: number }[]])[0][0]!.n)

describe('demand of a term', () => {
  it('counts who plans a course or is registered in it, once, and the seats that the tables have', async () => {
    expect(demand.forecast).toBeNull()
    for (const { course, students, registered } of demand.courses.slice(0, 25)) {
      const wanted = sql`SELECT p.student FROM plan_entries e JOIN plans p ON p.id = e.plan WHERE p.is_current AND p.deleted_at IS NULL
        AND e.term = ${TERM} AND e.course = ${course}`
      const inIt = sql`SELECT student FROM registrations WHERE term = ${TERM} AND course = ${course}`
      expect([course, students]).toEqual([course, await count(sql`SELECT COUNT(*) n FROM (${wanted} UNION ${inIt}) t`)])
      expect([course, registered]).toEqual([course, await count(sql`SELECT COUNT(DISTINCT student) n FROM registrations
        WHERE term = ${TERM} AND course = ${course}`)])
    }
    const lectures = await db.select({ capacity: sql<number>`sum(${s.seatPools.capacity})` }).from(s.seatPools)
      .innerJoin(s.sections, eq(s.sections.id, s.seatPools.section))
      .where(and(eq(s.sections.term, TERM), eq(s.sections.cancelled, false)))
    expect(demand.byDayPart.reduce((sum, one) => sum + one.seats, 0)).toBe(Number(lectures[0]!.capacity))
  })
  it('tells of a course who lacks a seat, what waits behind it, and when they are free', async () => {
    const worst = demand.courses.find(one => one.delayed.terms > 0 && one.behind > 0)!
    const story = await edda.json<CourseStory>('GET', `/api/demand/course?term=${TERM}&course=${encodeURIComponent(worst.course)}`)
    expect(story.course).toEqual(worst)
    expect(story.more!.sections * story.more!.size).toBeGreaterThanOrEqual(worst.short)
    expect(Math.max(...story.behind.map(one => one.students))).toBeLessThanOrEqual(worst.students - worst.registered)
    for (const time of story.times) expect(time.of).toBe(worst.students - worst.registered)
    expect(story.delayed.length).toBeGreaterThan(0)
  })
  it('is nobody\'s but the office\'s, and has nothing of a course that nobody asks for', async () => {
    const tamsin = await Client.signIn('tamsin')
    expect((await tamsin.call('GET', `/api/demand?term=${TERM}`)).status).toBe(403)
    const answer = await edda.call('GET', `/api/demand/course?term=${TERM}&course=${encodeURIComponent('ZZZ 999')}`)
    expect(await problemOf(answer)).toMatchObject({ status: 404, code: 'course-not-asked' })
  })
})

describe('a term without sections', () => {
  it('is forecast, with a range, and says how near such forecasts came', async () => {
    const { forecast } = await edda.json<Demand>('GET', '/api/demand?term=2027FA')
    expect(forecast!.known).toBe(TERM)
    expect(forecast!.backtest!.error).toBeLessThan(forecast!.backtest!.errorAsLastYear)
    for (const one of forecast!.courses) {
      expect(one.expected).toBeGreaterThanOrEqual(one.planned)
      if (one.low !== null) expect(one.low).toBeLessThanOrEqual(one.expected)
      if (one.high !== null) expect(one.high).toBeGreaterThanOrEqual(one.expected)
    }
    // Nothing that is only given in spring is expected in fall.
    const springOnly = await db.select({ code: s.courses.code, offered: s.courses.offered }).from(s.courses)
    const never = springOnly.filter(one => one.offered.seasons.length > 0 && !one.offered.seasons.includes('fall')).map(one => one.code)
    expect(forecast!.courses.filter(one => never.includes(one.course) && one.planned === 0)).toEqual([])
  })
})
