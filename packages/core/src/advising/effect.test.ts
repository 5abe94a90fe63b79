import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { TERMS } from '../../../../demo/calendar'
import { COURSES } from '../../../../demo/courses'
import { PROGRAMS } from '../../../../demo/programs'
import { LETTER_SCALE } from '../grades/scale'
import { EMPTY_PLAN, type Plan, type PlanEntry, type PlanOperation } from '../planning/plan'
import { readStanding, type Standing } from '../planning/standing'
import { type Catalog, EMPTY_FILE, type StudentFile } from '../planning/student-file'
import { effectOf, standingWith } from './effect'
import { readSelfCheck } from './self-check'

const TODAY = '2026-11-09'
const catalog: Catalog = { courses: new Map(COURSES.map(course => [course.code, course])), programs: PROGRAMS, terms: TERMS,
  scale: LETTER_SCALE, repeatPolicy: 'best' }
const FUTURE = TERMS.filter(term => term.start > TODAY).map(term => term.code)
const CODES = COURSES.slice(0, 40).map(course => course.code)
const file: StudentFile = { ...EMPTY_FILE, programs: ['WSC-BS'], placements: { MTH: 70 } }
const entry = (course: string, term: string): PlanEntry => ({ id: `${course}-${term}`, course, term,
  credits: catalog.courses.get(course)!.credits, pinned: false, pinnedUse: null, note: '' })
const reading = (entries: PlanEntry[]): Standing => readStanding({ ...file, entries }, catalog, TODAY)
const anyPlan = fc.uniqueArray(fc.tuple(fc.constantFrom(...CODES), fc.constantFrom(...FUTURE)).map(([code, term]) => entry(code, term)),
  { maxLength: 8, selector: one => one.course })
const ids = (checks: { id: string }[]) => checks.map(check => check.id).sort()

describe('what a suggested change comes to', () => {
  it('is nothing where nothing changes', () => {
    fc.assert(fc.property(anyPlan, (plan) => {
      const now = reading(plan)
      expect(effectOf(now, now)).toEqual({ finish: [now.finish, now.finish], open: [now.unplaced, now.unplaced], mended: [], broken: [],
        loads: [] })
    }), { numRuns: 20 })
  })

  it('is the mirror image when it is taken back', () => {
    fc.assert(fc.property(anyPlan, anyPlan, (one, other) => {
      const [a, b] = [reading(one), reading(other)]
      const [there, back] = [effectOf(a, b), effectOf(b, a)]
      expect(back.finish).toEqual([...there.finish].reverse())
      expect(back.open).toEqual([...there.open].reverse())
      expect([ids(back.mended), ids(back.broken)]).toEqual([ids(there.broken), ids(there.mended)])
      const loads = (effect: typeof there) => new Map(effect.loads.map(load => [load.term, [load.before, load.after]]))
      expect([...loads(back)].sort()).toEqual([...loads(there)].map(([term, two]) => [term, [...two].reverse()]).sort())
      // What a term gains is what is placed there now less what was.
      const creditsIn = (plan: PlanEntry[], term: string) => plan.reduce((sum, e) => e.term === term ? sum + e.credits : sum, 0)
      for (const { term, before, after } of there.loads) expect([before, after]).toEqual([creditsIn(one, term), creditsIn(other, term)])
    }), { numRuns: 40 })
  })

  it('is told of a plan only on which the change can still be done', () => {
    const plan: Plan = { ...EMPTY_PLAN, entries: [entry('WRT 110', FUTURE[0]!)] }
    const move: PlanOperation = { kind: 'move', entry: `WRT 110-${FUTURE[0]}`, term: FUTURE[1]! }
    const moved = standingWith(file, plan, [move], catalog, TODAY)!
    expect(moved.items.map(item => [item.course, item.term])).toEqual([['WRT 110', FUTURE[1]]])
    expect(standingWith(file, plan, [{ kind: 'remove', entry: 'gone' }], catalog, TODAY)).toBeNull()
    // What the plan's owner wishes for is read with it.
    const off = standingWith(file, { ...plan, wishes: { ...plan.wishes, termsOff: [FUTURE[1]!] } }, [move], catalog, TODAY)!
    expect(off.checks.map(check => check.kind)).toContain('term off')
  })
})

describe('the self-check of a term', () => {
  it('counts every blocker once, in the term or besides, and the credits of the term', () => {
    fc.assert(fc.property(anyPlan, fc.constantFrom(...FUTURE), (plan, term) => {
      const standing = reading(plan)
      const check = readSelfCheck(standing, term, 1200)
      expect(check.blockers + check.later).toBe(standing.checks.filter(one => one.severity === 'blocker').length)
      expect(check.credits).toBe(plan.reduce((sum, one) => one.term === term ? sum + one.credits : sum, 0))
      expect(check.fullTime).toBe(check.credits >= 1200)
      expect(check.open).toBe(standing.unplaced)
      for (const code of check.offPath) expect(plan).toContainEqual(entry(code, term))
    }), { numRuns: 40 })
  })

  it('finds what blocks in the term, what blocks later, and what counts for nothing', () => {
    const [first, second] = FUTURE as [string, string]
    // HYD 330 asks for much that is not there.
    const check = readSelfCheck(reading([entry('HYD 330', first), entry('HYD 310', second), entry('LNG 101', first)]), first, 1200)
    expect(check).toMatchObject({ credits: 300 + catalog.courses.get('LNG 101')!.credits, fullTime: false })
    expect(check.blockers).toBeGreaterThan(0)
    expect(check.later).toBeGreaterThan(0)
  })
})
