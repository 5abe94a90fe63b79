import { beforeAll, describe, expect, it } from 'vitest'
import type { CourseItem } from '@ridgeway/core/catalog'
import { LETTER_SCALE } from '@ridgeway/core/grades'
import {
  applyAll, type Catalog, draftRest, type DraftResult, type DraftWishes, EMPTY_FILE, EMPTY_PLAN, type PlanEntry,
  readStanding, shortestFinish, type StudentFile,
} from '@ridgeway/core/planning'
import { sayDraftReason } from '@ridgeway/words'
import { COURSES } from '../../demo/courses'
import { PROGRAMS } from '../../demo/programs'
import { TERMS } from '../../demo/calendar'
import { earliestByProgramme } from './draft-ilp'
import { AHEAD, DRAFT_TODAY, generateDraft, type DraftCase } from './generate-draft'
import { loadHighs } from './ilp'

/** The drafts' finish against HiGHS on the whole problem, choice of courses included. */
const CASES = 110
const slotOf = (code: string) => AHEAD.findIndex(term => term.code === code)
const draftOf = ({ file, catalog, wishes }: DraftCase) => draftRest({ file, catalog, today: DRAFT_TODAY, wishes })

let results: { problem: DraftCase, own: DraftResult, best: number | null }[]
beforeAll(async () => {
  const highs = await loadHighs()
  results = Array.from({ length: CASES }, (_, i) => {
    const problem = generateDraft(4000 + i, { courses: 14 + (i % 3) * 4, lines: 3 + i % 3, pins: i % 4 })
    return { problem, own: draftOf(problem), best: earliestByProgramme(highs, problem) }
  })
}, 300_000)

describe('drafts against an integer programme', () => {
  it('are possible where it says so, and impossible is only called proved where it is', () => {
    const wrong = results.filter(({ own, best }) => own.kind === 'drafts' && best === null)
    expect(wrong).toEqual([])
    for (const { own, best } of results) if (own.kind === 'impossible' && own.reason.proved) expect(best).toBeNull()
    const missed = results.filter(({ own, best }) => own.kind === 'impossible' && best !== null)
    expect(missed.length).toBeLessThanOrEqual(CASES * 0.05)
  })

  it('never finish before the optimum, and finish with it where "shortest" is said', () => {
    let proved = 0
    let compared = 0
    for (const { own, best } of results) {
      if (own.kind !== 'drafts' || best === null) continue
      const first = own.drafts[0]!
      compared++
      expect(slotOf(first.bound)).toBeLessThanOrEqual(best)
      for (const draft of own.drafts) expect(slotOf(draft.finish)).toBeGreaterThanOrEqual(best)
      if (!first.shortest) continue
      proved++
      expect(slotOf(first.finish)).toBe(best)
    }
    expect(compared).toBeGreaterThanOrEqual(60)
    expect(proved / compared).toBeGreaterThanOrEqual(0.9)
  })

  it('have the finish that is found alone, without the terms before it', () => {
    let found = 0
    for (const { problem: { file, catalog, wishes }, own, best } of results) {
      const alone = shortestFinish({ file, catalog, today: DRAFT_TODAY, wishes })
      expect(alone === null).toBe(own.kind === 'impossible' && own.reason.code !== 'no place found')
      if (alone === null || alone.finish === null || best === null) continue
      found++
      expect(slotOf(alone.finish)).toBeGreaterThanOrEqual(best)
      if (alone.shortest) expect(slotOf(alone.finish)).toBe(best)
      if (own.kind === 'drafts') expect(own.drafts[0]).toMatchObject({ finish: alone.finish, shortest: alone.shortest })
    }
    expect(found).toBeGreaterThanOrEqual(60)
  })

  it('a gap that is told is at least the true one', () => {
    for (const { own, best } of results) {
      if (own.kind !== 'drafts' || best === null) continue
      const longTerms = AHEAD.filter((term, slot) =>
        slot > best && slot <= slotOf(own.drafts[0]!.finish) && term.season !== 'summer',
      ).length
      expect(own.drafts[0]!.gap).toBeGreaterThanOrEqual(longTerms)
    }
  })

  it('every draft passes every check, leaves nothing open, and keeps pins, loads and terms off', () => {
    for (const { problem: { file, catalog, wishes }, own } of results) {
      if (own.kind !== 'drafts') continue
      for (const draft of own.drafts) {
        const plan = applyAll({ ...EMPTY_PLAN, entries: file.entries }, draft.operations)
        if (typeof plan === 'string') throw new Error(plan)
        const after = readStanding({ ...file, entries: plan.entries, wishes: { ...wishes, termsOff: [], target: null } }, catalog,
          DRAFT_TODAY)
        expect(after.checks.filter(check => check.severity === 'blocker')).toEqual([])
        expect(after.open).toBe(0)
        for (const entry of file.entries.filter(one => one.pinned))
          expect(plan.entries.find(one => one.id === entry.id)?.term).toBe(entry.term)
        for (const load of after.loads) {
          const stays = file.entries.filter(entry => entry.pinned && entry.term === load.term).reduce((sum, entry) => sum + entry.credits,
            0)
          const limit = wishes.termsOff.includes(load.term) ? stays : Math.max(wishes.load ?? Infinity, stays)
          expect(load.credits).toBeLessThanOrEqual(limit)
        }
      }
    }
  })

  it('the same request gives the same drafts', () => {
    for (const { problem, own } of results.slice(0, 8)) expect(draftOf(problem)).toEqual(own)
  })
})

describe('drafting a real degree', () => {
  const catalog: Catalog = { courses: new Map(COURSES.map(course => [course.code, course])),
    programs: PROGRAMS.filter(program => program.catalogYear === 2025), terms: TERMS, scale: LETTER_SCALE, repeatPolicy: 'best' }
  const wishes: DraftWishes = { load: null, termsOff: [], latestFinish: null, summers: 'when needed', around: 'pinned' }
  const THREE_TERMS = catalog.programs.find(program => program.code === 'WSC-BS')!.suggested.slice(0, 3).flatMap(step => step.courses)
    .map((course): CourseItem => ({ id: `r-${course}`, course, term: '2026SP', credits: catalog.courses.get(course)!.credits, grade: 'B',
      state: 'completed', source: 'here' }),
    )
  const file = (entries: PlanEntry[], record: CourseItem[]): StudentFile => ({ ...EMPTY_FILE, record, entries,
    programs: ['WSC-BS', 'TSS-CERT'], placements: { MTH: 70 } })
  const entry = (course: string, term: string, pinned = true): PlanEntry => ({ id: `${course}-${term}`, course, term, credits: 300, pinned,
    pinnedUse: null, note: '' })
  const draft = (entries: PlanEntry[], more: Partial<DraftWishes> = {}, record: CourseItem[] = []) =>
    draftRest({ file: file(entries, record), catalog, today: DRAFT_TODAY, wishes: { ...wishes, ...more } })

  it('lays out four years from nothing, within the caps, and keeps a load that is asked for', () => {
    const own = draft([])
    if (own.kind !== 'drafts') throw new Error(own.kind)
    expect(own.drafts[0]!.placed.length).toBeGreaterThan(30)
    expect(own.drafts.map(one => one.kind)[0]).toBe('soonest')
    for (const one of own.drafts) expect(one.peak).toBeLessThanOrEqual(1800)
  })
  it('names the smallest set of wishes that cannot hold together', () => {
    const own = draft([], { load: 900, latestFinish: '2028FA' })
    if (own.kind !== 'impossible') throw new Error(own.kind)
    expect(own.reason).toMatchObject({ proved: true, constraints: [{ code: 'finish by', term: '2028FA' }] })
    const both = draft([entry('HYD 490', '2028SP')])
    if (both.kind !== 'impossible') throw new Error(both.kind)
    expect(both.reason).toMatchObject({ proved: true, constraints: [{ code: 'pinned', course: 'HYD 490', term: '2028SP' }] })
  })
  it('a wish alone may be fine where two together are not', () => {
    const loose = draft([], { load: 1400 }, THREE_TERMS)
    const late = draft([], { latestFinish: '2029SP' }, THREE_TERMS)
    expect([loose.kind, late.kind]).toEqual(['drafts', 'drafts'])
    const tight = draft([], { load: 1400, latestFinish: '2029SP' }, THREE_TERMS)
    if (tight.kind !== 'impossible') throw new Error(tight.kind)
    expect(tight.reason).toMatchObject({ code: 'conflict',
      constraints: [{ code: 'finish by', term: '2029SP' }, { code: 'load', credits: 1400 }] })
    expect(sayDraftReason(tight.reason)).toMatch(/cannot hold together/)
  })
})
