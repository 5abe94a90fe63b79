import { alg, Graph } from '@dagrejs/graphlib'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { termOrder, termsAhead } from '@ridgeway/core/catalog'
import { findRings } from '@ridgeway/core/prerequisites'
import { findClash, type Occurrence } from '@ridgeway/core/weeks'
import { course, courseMap, term } from '../builders'

const CODES = ['AAA 100', 'BBB 100', 'CCC 100', 'DDD 100', 'EEE 100', 'FFF 100']

/** A wait of one course for another: before it, or beside it at the latest. */
interface Edge {
  from: number
  to: number
  strict: boolean
}
const anyEdges: fc.Arbitrary<Edge[]> = fc.uniqueArray(
  fc.record({ from: fc.nat(5), to: fc.nat(5), strict: fc.boolean() }).filter(({ from, to }) => from !== to),
  { maxLength: 9, selector: ({ from, to }) => `${from} ${to}` },
)

const catalogOf = (edges: readonly Edge[]) =>
  courseMap(...CODES.map((code, i) => {
    const mine = edges.filter(edge => edge.from === i)
    return course(code, {
      prerequisite: mine.filter(edge => edge.strict).map(edge => CODES[edge.to]).join(' and '),
      corequisite: mine.filter(edge => !edge.strict).map(edge => CODES[edge.to]).join(' and '),
    })
  }))

// Courses that wait for each other: strongly connected components, by the graph library's Tarjan. One of them can never be taken
// when a wait inside it is strict.
describe('rings in a catalog, against a graph library', () => {
  const closed = (edges: readonly Edge[]): Set<string>[] => {
    const graph = new Graph({ directed: true })
    CODES.forEach(code => graph.setNode(code))
    for (const { from, to } of edges) graph.setEdge(CODES[from]!, CODES[to]!)
    return alg.tarjan(graph).map(component => new Set(component as string[]))
      .filter(component => edges.some(({ from, to, strict }) => strict && component.has(CODES[from]!) && component.has(CODES[to]!)))
  }

  it('are found exactly where a component has a strict wait inside', () => {
    fc.assert(fc.property(anyEdges, (edges) => {
      expect(findRings(catalogOf(edges)).length > 0).toBe(closed(edges).length > 0)
    }), { numRuns: 2000 })
  })
  it('are not told of courses beside each other that wait for a ring elsewhere', () => {
    const edges = [[2, 1, false], [1, 2, false], [3, 0, false], [0, 3, true], [1, 0, false]] as const
    expect(findRings(catalogOf(edges.map(([from, to, strict]) => ({ from, to, strict }))))).toEqual([['AAA 100', 'DDD 100']])
  })
  it('are told as courses that really wait for each other, all of one component', () => {
    fc.assert(fc.property(anyEdges, (edges) => {
      const components = closed(edges)
      for (const ring of findRings(catalogOf(edges))) {
        ring.forEach((code, i) => {
          const next = ring[(i + 1) % ring.length]!
          expect(edges.some(({ from, to }) => CODES[from] === code && CODES[to] === next)).toBe(true)
        })
        expect(components.some(component => ring.every(code => component.has(code)))).toBe(true)
      }
    }), { numRuns: 2000 })
  })
})

describe('clashes, against every minute', () => {
  const anyOccurrence: fc.Arbitrary<Occurrence> = fc.record({
    date: fc.constantFrom('2027-01-11', '2027-01-12', '2027-01-13'),
    start: fc.integer({ min: 0, max: 143 }).map(n => n * 10),
    length: fc.integer({ min: 1, max: 60 }).map(n => n * 10),
    site: fc.constant('main'),
  }).map(({ date, start, length, site }) => ({ date, start, end: start + length, site }))
  const DAYS = ['2027-01-11', '2027-01-12', '2027-01-13']
  const minutes = (list: readonly Occurrence[]) =>
    new Set(
      list.flatMap(({ date, start, end }) =>
        Array.from({ length: (end - start) / 10 }, (_, i) => DAYS.indexOf(date) * 1440 + start + i * 10),
      ),
    )

  it('are found exactly where two lists share a minute, the first of them first, past midnight as well', () => {
    fc.assert(fc.property(fc.array(anyOccurrence, { maxLength: 4 }), fc.array(anyOccurrence, { maxLength: 4 }), (a, b) => {
      const theirs = minutes(b)
      const shared = [...minutes(a)].filter(minute => theirs.has(minute))
      const found = findClash(a, b, [])
      expect(found !== null).toBe(shared.length > 0)
      // The date told is that on which the later of the two classes begins, and the first shared minute is when it does.
      if (found) expect(found.date).toBe(DAYS[Math.floor(Math.min(...shared) / 1440)])
    }), { numRuns: 600 })
  })
  it('do not depend on which list is asked about', () => {
    fc.assert(fc.property(fc.array(anyOccurrence, { maxLength: 4 }), fc.array(anyOccurrence, { maxLength: 4 }), (a, b) => {
      expect(findClash(b, a, [])?.date).toBe(findClash(a, b, [])?.date)
    }), { numRuns: 300 })
  })
})

describe('terms ahead', () => {
  it('go on past the calendar with every season it knows, in order, each once', () => {
    const ahead = termsAhead([term('2026SP'), term('2026FA'), term('2027SP'), term('2027SU')], '2026-11-09', 2)
    expect(ahead.map(one => one.code)).toEqual(['2027SP', '2027SU', '2027FA', '2028SP', '2028SU', '2028FA', '2029SP', '2029SU', '2029FA'])
    expect(ahead.find(one => one.code === '2028FA')).toMatchObject({ season: 'fall', year: 2028, start: '2028-08-24', scheduled: false,
      name: '' })
  })
  it('are none without a calendar, and never begin before the date', () => {
    expect(termsAhead([], '2026-11-09')).toEqual([])
    fc.assert(
      fc.property(fc.uniqueArray(fc.constantFrom('2025FA', '2026SP', '2026SU', '2026FA', '2027SP', '2027SU'), { minLength: 1 }),
        (codes) => {
          const ahead = termsAhead(codes.map(code => term(code)), '2026-11-09')
          expect(ahead.every(one => one.start > '2026-11-09')).toBe(true)
          const orders = ahead.map(one => termOrder(one.code))
          expect(orders).toEqual([...new Set(orders)].sort((a, b) => a - b))
        }),
    )
  })
})
