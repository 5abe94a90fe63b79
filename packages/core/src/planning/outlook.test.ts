import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { TERMS } from '../../../../demo/calendar'
import { COURSES } from '../../../../demo/courses'
import { PROGRAMS } from '../../../../demo/programs'
import type { CourseItem } from '../catalog/types'
import { LETTER_SCALE } from '../grades/scale'
import { lineRef } from '../record/ids'
import { isBelow } from '../requirements/rules'
import { glanceTogether, sumTogether } from '../requirements/together'
import type { CourseLine, RequirementNode } from '../requirements/types'
import { readOutlook } from './outlook'
import type { Placeholder, PlanEntry } from './plan'
import { readStanding } from './standing'
import { type Catalog, EMPTY_FILE, type StudentFile } from './student-file'

const courses = new Map(COURSES.map(course => [course.code, course]))
const TODAY = '2026-11-09'
const PAST = TERMS.filter(term => term.end <= TODAY && term.season !== 'summer').map(term => term.code)
const FUTURE = TERMS.filter(term => term.start > TODAY).map(term => term.code)
/** The program of this code with the newest rules. */
const newest = (code: string) => PROGRAMS.find(program => program.code === code)!
const linesOf = (node: RequirementNode): CourseLine[] => node.kind === 'courses' ? [node] : node.children.flatMap(linesOf)

/** Somebody who follows a program's sequence, part of it behind and part planned, with detours, bad grades and places held. */
const anyPrograms = fc.constantFrom(['WSC-BS', 'TSS-CERT'], ['UPH-BA'], ['UPH-BA', 'EST-MIN'], ['GFT-AAS'], ['WSC-BS', 'EST-MIN'], [])
const anyFile = anyPrograms.chain((programs) => {
  const way = (programs[0] ? newest(programs[0]).suggested.flatMap(step => step.courses) : []).filter(code => courses.has(code))
  const lines = programs.flatMap(code => newest(code).areas.flatMap(area => area.children).flatMap(linesOf)
    .map(line => lineRef(code, line.id)))
  return fc.record({
    done: fc.integer({ min: 0, max: way.length }),
    grades: fc.array(fc.constantFrom('A', 'B', 'B', 'C', 'C', 'C-', 'D', 'F', 'P'), { minLength: 5, maxLength: 9 }),
    dropped: fc.constantFrom(0, 0, 4, 9),
    detours: fc.uniqueArray(fc.constantFrom(...courses.keys()), { maxLength: 6 }),
    held: fc.array(fc.constantFrom(...lines, 'nowhere/line'), { maxLength: 2 }),
  }).map(({ done, grades, dropped, detours, held }): StudentFile => {
    const taken = [...way.slice(0, done), ...detours]
    const record = taken.map((course, i): CourseItem => ({ id: `r${i}`, course, term: PAST[i % PAST.length]!,
      credits: courses.get(course)!.credits, grade: grades[i % grades.length]!, state: 'completed',
      source: i % 11 === 10 ? 'transfer' : 'here' }))
    const entries = way.slice(done).filter((_, i) => dropped === 0 || i % dropped > 0).map((course, i): PlanEntry => ({ id: `e${i}`, course,
      term: FUTURE[Math.min(FUTURE.length - 1, Math.floor(i / 5))]!, credits: courses.get(course)!.credits, pinned: false, pinnedUse: null,
      note: '' }))
    const placeholders = held.map((line, i): Placeholder => ({ id: `p${i}`, line, term: FUTURE.at(-1)!, credits: 300, note: '' }))
    return { ...EMPTY_FILE, record, entries, placeholders, programs: [...programs], placements: { MTH: 70 } }
  })
})

describe('the outlook', () => {
  it.each(['best', 'latest'] as const)('has the figures of the whole reading, whatever is in a file (%s attempt)', (repeatPolicy) => {
    const catalog: Catalog = { courses, programs: PROGRAMS, terms: TERMS, scale: LETTER_SCALE, repeatPolicy }
    const seen = { finished: 0, open: 0, low: 0, fine: 0, glance: 0, quick: 0, whole: 0 }
    const look = (file: StudentFile) => {
      const standing = readStanding(file, catalog, TODAY)
      const outlook = readOutlook(file, catalog, TODAY)
      expect(outlook).toEqual({ earned: standing.earned, finish: standing.finish,
        blockers: standing.checks.filter(check => check.severity === 'blocker').length,
        isLow: standing.checks.some(check => check.kind === 'gpa') })
      const sums = sumTogether(standing.asked)
      // What the sums say of each program is what its report says, wherever they say anything.
      sums?.forEach((sum, p) => {
        const { open, overlays, rules, earning } = standing.reports[p]!
        expect([sum.open, sum.overlays.map(line => line.open), sum.rules.filter(isBelow).length, sum.earning]).toEqual(
          [open, overlays.map(line => line.open), rules.filter(isBelow).length, earning])
      })
      seen[outlook.finish === null ? 'open' : 'finished']++
      seen[outlook.isLow ? 'low' : 'fine']++
      seen[glanceTogether(standing.asked) ? 'glance' : sums ? 'quick' : 'whole']++
    }
    fc.assert(fc.property(anyFile, look), { numRuns: 150 })
    // What chance left out is among those that are drawn the same way each time.
    const missing = () => Object.entries(seen).filter(([, times]) => times === 0)
    for (const file of fc.sample(anyFile, { numRuns: 400, seed: 1 })) if (missing().length > 0) look(file)
    expect(missing()).toEqual([])
  })
})
