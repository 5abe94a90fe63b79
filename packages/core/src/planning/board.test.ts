import { describe, expect, it } from 'vitest'
import { TERMS } from '../../../../demo/calendar'
import { COURSES } from '../../../../demo/courses'
import { PROGRAMS } from '../../../../demo/programs'
import type { CourseItem } from '../catalog/types'
import { LETTER_SCALE } from '../grades/scale'
import { comparePlans } from './compare'
import { findLinks, partnersOf, placeWithPartners } from './links'
import { prerequisiteMap } from './opening-map'
import { readPace } from './pace'
import { EMPTY_PLAN, type Plan, type PlanEntry } from './plan'
import { readStanding } from './standing'
import { type Catalog, EMPTY_FILE } from './student-file'

const courses = new Map(COURSES.map(course => [course.code, course]))
const catalog: Catalog = { courses, programs: PROGRAMS, terms: TERMS, scale: LETTER_SCALE, repeatPolicy: 'best' }
const TODAY = '2026-11-09'
const entry = (course: string, term: string, more: Partial<PlanEntry> = {}): PlanEntry => ({ id: `${course}-${term}`, course, term,
  credits: courses.get(course)!.credits, pinned: false, pinnedUse: null, note: '', ...more })
const item = (course: string, term: string, state: CourseItem['state'] = 'planned', grade: string | null = null): CourseItem => ({
  id: `${course}-${term}`,
  course,
  term,
  credits: courses.get(course)!.credits,
  grade,
  state,
  source: 'here',
})

describe('findLinks', () => {
  it('names what comes first, what goes along and what waits', () => {
    const items = [item('CHY 220', '2027FA'), item('CHY 310', '2028SP'), item('CHY 311', '2028SP'),
      item('CHY 120', '2026FA', 'completed', 'B')]
    expect(findLinks(items[1]!, { items, courses })).toMatchObject({ before: ['CHY 220-2027FA'], beside: ['CHY 311-2028SP'] })
    expect(findLinks(items[0]!, { items, courses })).toMatchObject({ before: ['CHY 120-2026FA'],
      after: expect.arrayContaining(['CHY 310-2028SP']) })
  })
})

describe('corequisite partners', () => {
  const entries = [entry('CHY 310', '2028SP'), entry('CHY 311', '2028SP'), entry('VAL 110', '2028SP')]
  const items = entries.map(one => item(one.course, one.term))
  it('move together, unless one is pinned or picked', () => {
    expect(partnersOf(entries[0]!, entries, { items, courses }).map(one => one.course)).toEqual(['CHY 311'])
    expect(partnersOf(entries[2]!, entries, { items, courses })).toEqual([])
    expect(partnersOf(entries[0]!, [entries[0]!, { ...entries[1]!, pinned: true }], { items, courses })).toEqual([])
  })
  it('are placed together, and what is there already is not placed again', () => {
    const facts = { programs: [], placements: {}, permissions: [] }
    const placed = (given: CourseItem[], mine: PlanEntry[] = []) =>
      placeWithPartners('CHY 310', '2028SP', { items: given, entries: mine, courses, facts, scale: LETTER_SCALE, repeatPolicy: 'best' },
        'x').map(operation => operation.kind === 'place' && operation.course)
    expect(placed([])).toEqual(['CHY 310', 'CHY 311'])
    expect(placed([item('CHY 311', '2028SP')])).toEqual(['CHY 310'])
    expect(placed([item('CHY 311', '2027SP', 'completed', 'B')])).toEqual(['CHY 310'])
  })
})

describe('readPace', () => {
  const terms = TERMS
  const base = { terms, today: TODAY, total: 12000, behind: 4300, finish: '2028FA' }
  it('averages past terms of fall and spring, and spreads the rest over those to come', () => {
    const items = [item('HYD 110', '2025FA', 'completed', 'B'), item('WRT 110', '2025FA', 'completed', 'B'),
      item('CHY 110', '2026SP', 'completed', 'B')]
    const pace = readPace({ ...base, earning: items })
    expect(pace).toEqual({
      soFar: Math.round((courses.get('HYD 110')!.credits + courses.get('WRT 110')!.credits + courses.get('CHY 110')!.credits) / 2),
      termsLeft: 4,
      asked: 2000,
      creditsLeft: 7700,
    })
  })
  it('promises nothing without a finish or a past', () => {
    expect(readPace({ ...base, earning: [], finish: null })).toEqual({ soFar: null, termsLeft: null, asked: null, creditsLeft: 7700 })
  })
})

describe('comparePlans', () => {
  it('tells what only one has, and where the other has it', () => {
    const plans: [Plan, Plan] = [{ ...EMPTY_PLAN, entries: [entry('VAL 220', '2027FA'), entry('WRT 210', '2027SP')] }, { ...EMPTY_PLAN,
      entries: [entry('VAL 220', '2028SP'), entry('WRT 210', '2027SP')] }]
    const standings = plans.map(plan => readStanding({ ...EMPTY_FILE, entries: plan.entries, programs: ['WSC-BS'] }, catalog, TODAY)) as [
      ReturnType<typeof readStanding>,
      ReturnType<typeof readStanding>,
    ]
    const found = comparePlans(plans, standings)
    expect(found.terms.map(term => term.term)).toEqual(['2027SP', '2027FA', '2028SP'])
    expect(found.terms[0]).toMatchObject({ both: ['WRT 210'], only: [[], []] })
    expect(found.terms[1]!.only).toEqual([[{ course: 'VAL 220', other: '2028SP' }], []])
    expect(found.terms[2]!.only).toEqual([[], [{ course: 'VAL 220', other: '2027FA' }]])
    expect(found.open[0]).toBe(found.open[1])
    expect(found.areas.length).toBe(standings[0].reports[0]!.areas.length)
  })
})

describe('prerequisiteMap', () => {
  const program = PROGRAMS.find(one => one.code === 'WSC-BS' && one.catalogYear === 2025)!
  const of = (map: ReturnType<typeof prerequisiteMap>, code: string) => map.courses.find(course => course.code === code)!
  const map = prerequisiteMap(program, courses)
  it('has every course that the program names, and what must come before it', () => {
    for (const line of program.areas.flatMap(area => area.children).flatMap(node => node.kind === 'courses' ? node.filter.list ?? [] : []))
      expect(map.courses.map(course => course.code)).toContain(line)
    expect(map.ways).toContainEqual(expect.objectContaining({ from: 'HYD 310', to: 'HYD 410', either: false }))
  })
  it('counts through other courses, and the longest way on', () => {
    expect(of(map, 'HYD 490')).toMatchObject({ opens: 0, depth: 1 })
    expect(of(map, 'HYD 410')).toMatchObject({ opens: 1, depth: 2 })
    expect(of(map, 'HYD 310').depth).toBe(3)
    for (const way of map.ways.filter(one => !one.spare)) {
      expect(of(map, way.from).depth).toBeGreaterThan(of(map, way.to).depth)
      expect(of(map, way.from).opens).toBeGreaterThan(of(map, way.to).opens)
    }
  })
  it('nothing waits for one of several when another of them is passed', () => {
    const passed = prerequisiteMap(program, courses, [{ course: 'MTH 140', state: 'completed' }])
    expect(of(passed, 'MTH 120')?.opens ?? 0).toBeLessThan(of(map, 'MTH 120').opens)
  })
})
