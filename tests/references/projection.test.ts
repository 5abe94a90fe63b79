import { alg, Graph } from '@dagrejs/graphlib'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type CourseItem, isOffered, termOrder, termPhase } from '@ridgeway/core/catalog'
import { LETTER_SCALE } from '@ridgeway/core/grades'
import { type Activity, chainTo, criticalPath, type Dependency, EMPTY_FILE, type PlanEntry, projectPlan } from '@ridgeway/core/planning'
import { COURSES } from '../../demo/courses'
import { TERMS } from '../../demo/calendar'
import { findProgram } from '../../demo/programs'

/**
 * The Reliable Construction Co. example of Hillier & Lieberman, "Introduction to Operations Research" (7th ed., 2001, chapter 10):
 * activities with their durations in weeks and what they wait for. Values from memory; the book gives a project of 44 weeks
 * along A, B, C, E, F, J, L, N.
 */
const DURATIONS: Record<string, number> = { A: 2, B: 4, C: 10, D: 6, E: 4, F: 5, G: 7, H: 9, I: 7, J: 8, K: 4, L: 5, M: 2, N: 6 }
const WAITS: Record<string, string> = { B: 'A', C: 'B', D: 'C', E: 'C', F: 'E', G: 'D', H: 'EG', I: 'C', J: 'FI', K: 'J', L: 'J', M: 'H',
  N: 'KL' }
const weeks = Array.from({ length: 60 }, (_, week) => week)

describe('the critical path method', () => {
  const activities: Activity[] = [...Object.keys(DURATIONS), 'end'].map(id => ({ id, slots: weeks }))
  const dependencies: Dependency[] = [
    ...Object.entries(WAITS).flatMap(([after, before]) => [...before].map(id => ({ before: id, after, lag: DURATIONS[id]! }))),
    ...Object.keys(DURATIONS).map(id => ({ before: id, after: 'end', lag: DURATIONS[id]! })),
  ]
  const windows = criticalPath(activities, dependencies, 44)

  it('finds the textbook\'s 44 weeks and its critical path', () => {
    expect(windows.get('end')!.earliest).toBe(44)
    expect(chainTo('end', windows)).toEqual(['A', 'B', 'C', 'E', 'F', 'J', 'L', 'N', 'end'])
    expect(Object.keys(DURATIONS).filter(id => windows.get(id)!.earliest === windows.get(id)!.latest)).toEqual(['A', 'B', 'C', 'E', 'F',
      'J', 'L', 'N'])
  })
  it('finds the textbook\'s slacks', () => {
    const slack = Object.fromEntries(['D', 'G', 'H', 'I', 'K', 'M'].map(id => [id, windows.get(id)!.latest! - windows.get(id)!.earliest!]))
    expect(slack).toEqual({ D: 4, G: 4, H: 4, I: 2, K: 1, M: 4 })
  })
  it('gives no window in a ring, and keeps out of slots that are not offered', () => {
    const ring = criticalPath([{ id: 'a', slots: weeks }, { id: 'b', slots: weeks }], [{ before: 'a', after: 'b', lag: 1 }, { before: 'b',
      after: 'a', lag: 1 }], 9)
    expect(ring.get('a')).toEqual({ earliest: null, latest: null, decidedBy: null })
    const odd = criticalPath([{ id: 'a', slots: [0, 2, 4] }, { id: 'b', slots: [1, 3, 5] }, { id: 'c', slots: [3], fixed: 3 }], [{
      before: 'a',
      after: 'b',
      lag: 2,
    }], 5)
    expect([odd.get('b'), odd.get('a'), odd.get('c')]).toMatchObject([{ earliest: 3, latest: 5 }, { earliest: 0, latest: 2 }, { earliest: 3,
      latest: 3 }])
  })

  // Longest path = shortest path with negated lengths, by the graph library's Bellman–Ford.
  it('equals a graph library\'s longest path on random nets', () => {
    const net = fc.integer({ min: 2, max: 14 }).chain(n =>
      fc.tuple(fc.constant(n), fc.array(fc.tuple(fc.nat(n - 1), fc.nat(n - 1), fc.integer({ min: 0, max: 3 })), { maxLength: 40 })),
    )
    fc.assert(fc.property(net, ([n, raw]) => {
      const edges = raw.filter(([a, b]) => a < b).map(([a, b, lag]): Dependency => ({ before: `${a}`, after: `${b}`, lag }))
      const own = criticalPath(Array.from({ length: n }, (_, i) => ({ id: `${i}`, slots: weeks })), edges, 59)
      const graph = new Graph()
      graph.setNode('start')
      for (let i = 0; i < n; i++) graph.setEdge('start', `${i}`, 0)
      for (const { before, after, lag } of edges) graph.setEdge(before, after, Math.min(graph.edge(before, after) as number ?? 0, -lag))
      const longest = alg.bellmanFord(graph, 'start', edge => graph.edge(edge) as number, node => graph.outEdges(node) ?? [])
      for (let i = 0; i < n; i++) expect(own.get(`${i}`)!.earliest).toBe(-longest[`${i}`]!.distance + 0)
    }), { numRuns: 300 })
  })
})

describe('projection of a plan', () => {
  const courses = new Map(COURSES.map(course => [course.code, course]))
  const terms = TERMS.filter(term => termPhase(term, '2026-11-09') === 'future').sort((a, b) => termOrder(a.code) - termOrder(b.code))
  const codes = [...new Set(findProgram('WSC-BS-2025').suggested.flatMap(step => step.courses))]
  const catalog = { courses, terms: TERMS, programs: [], scale: LETTER_SCALE, repeatPolicy: 'best' as const }
  const project = (planned: [string, string, boolean?][]) => {
    const entries = planned.map(([course, term, pinned = false]): PlanEntry => ({ id: course, course, term,
      credits: courses.get(course)!.credits, pinned, pinnedUse: null, note: '' }),
    )
    const items = entries.map(({ id, course, term, credits }): CourseItem => ({ id, course, term, credits, grade: null, state: 'planned',
      source: 'here' }),
    )
    return projectPlan({ file: { ...EMPTY_FILE, entries, programs: ['WSC-BS'], placements: { MTH: 70 } }, items, catalog,
      today: '2026-11-09' })
  }

  it('says which chain decides, and how far each course can slide', () => {
    const plan = project([['CHY 110', '2027SP'], ['CHY 120', '2027FA'], ['CHY 220', '2028FA'], ['HYD 110', '2027SP'], ['VAL 110',
      '2027SP']])
    expect(plan).toMatchObject({ finish: '2028FA', soonest: '2028FA', chain: ['CHY 110', 'CHY 120', 'CHY 220'] })
    expect(plan.windows['CHY 120']).toEqual({ earliest: '2027FA', latest: '2028SP', terms: ['2027FA', '2028SP'], slack: 1 })
    expect(plan.windows['VAL 110']).toMatchObject({ latest: '2028FA', slack: 3 })
  })
  it('lets a pinned course hold what comes before it', () => {
    const plan = project([['CHY 110', '2027SP'], ['CHY 120', '2027FA', true], ['VAL 110', '2028SP']])
    expect(plan.windows['CHY 120']).toMatchObject({ earliest: '2027FA', latest: '2027FA', slack: 0 })
    expect(plan.windows['CHY 110']).toMatchObject({ latest: '2027SP', slack: 0 })
  })
  it('moves corequisite partners as one', () => {
    const plan = project([['CHY 310', '2028SP'], ['CHY 311', '2028SP'], ['VAL 110', '2029SP']])
    expect(plan.windows['CHY 310']!.terms).toEqual(plan.windows['CHY 311']!.terms)
  })

  // Sliding one course anywhere in its window keeps every prerequisite that the others leave alone can keep, and is offered there.
  it('never names a term in which the course is not offered, nor one past the finish', () => {
    const placement = fc.array(fc.tuple(fc.constantFrom(...codes), fc.nat(terms.length - 1)), { minLength: 1, maxLength: 14 })
    fc.assert(fc.property(placement, (raw) => {
      const unique = [...new Map(raw).entries()].map(([course, slot]): [string, string] => [course, terms[slot]!.code])
      const plan = project(unique)
      for (const [course] of unique) {
        const window = plan.windows[course]!
        for (const code of window.terms) {
          expect(isOffered(courses.get(course)!, terms.find(term => term.code === code)!)).toBe(true)
          expect(termOrder(code)).toBeLessThanOrEqual(termOrder(plan.finish!))
        }
      }
    }), { numRuns: 150 })
  })
})
