import { describe, expect, it } from 'vitest'
import type { CourseItem } from '@ridgeway/core/catalog'
import { LETTER_SCALE } from '@ridgeway/core/grades'
import { checkCatalog, parseExpression } from '@ridgeway/core/prerequisites'
import { needsEveryListed, programId, readProgram, type RequirementNode } from '@ridgeway/core/requirements'
import { bundlesOf, weeklyMinutes } from '@ridgeway/core/weeks'
import { sayLacking } from '@ridgeway/words'
import { TERMS } from '../../demo/calendar'
import { COURSES } from '../../demo/courses'
import { PROGRAMS } from '../../demo/programs'
import { Random } from '../../demo/random'
import { makeSections } from '../../demo/sections'

const courses = new Map(COURSES.map(course => [course.code, course]))
const spring = TERMS.find(term => term.code === '2027SP')!
const sections = makeSections(spring, COURSES, new Random(1), 1)
const credits = (node: RequirementNode): number =>
  node.kind === 'courses'
    ? node.credits
    ?? (needsEveryListed(node) ? node.filter.list!.reduce((sum, code) => sum + courses.get(code)!.credits, 0) : (node.courses ?? 0) * 300)
    : node.children.map(credits).sort((a, b) => a - b).slice(0, node.kind === 'some' ? node.n : node.children.length).reduce(
        (sum, part) => sum + part,
        0,
      )

describe('the demo college', () => {
  it('has rules that can be read, name known courses, and run in no circle', () => {
    for (const course of COURSES) {
      for (const text of [course.prerequisite, course.corequisite]) {
        expect(parseExpression(text), `${course.code}: ${text}`).toMatchObject({ ok: true })
        for (const code of text.match(/[A-Z]{3} \d{3}/g) ?? []) expect(courses.has(code), `${course.code} names ${code}`).toBe(true)
      }
    }
    expect(checkCatalog(courses)).toEqual([])
    expect(COURSES.length).toBeGreaterThanOrEqual(220)
  })

  it.each(PROGRAMS.map(program => [programId(program), program] as const))('%s adds up to its total', (_, program) => {
    expect(program.areas.reduce((sum, area) => sum + credits(area), 0)).toBe(program.totalCredits)
  })

  it.each(PROGRAMS.filter(program => program.suggested.length > 0).map(program => [programId(program), program] as const))(
    '%s can be finished: the suggested sequence covers it, in an order that the rules allow',
    (_, program) => {
      const steps = [...new Set(program.suggested.map(step => step.name))]
      const items = program.suggested.flatMap(step =>
        step.courses.map((code): CourseItem => ({
          id: `${code} ${step.name}`,
          course: code,
          term: `${2024 + Math.floor((steps.indexOf(step.name) + 1) / 2)}${
            step.name.endsWith('fall') ? 'FA' : step.name.endsWith('summer') ? 'SU' : 'SP'
          }`,
          credits: courses.get(code)!.credits,
          grade: 'B',
          state: 'completed',
          source: 'here',
        })),
      )
      const report = readProgram({ program, items, courses, scale: LETTER_SCALE, repeatPolicy: 'best' })
      const lines = [...report.areas.flatMap(area => area.lines), ...report.overlays]
      expect(lines.filter(line => line.open > 0 && !line.setAside).map(line => `${line.id}: ${sayLacking(line.lacking)}`)).toEqual([])
      expect(report.proved).toBe(true)
    },
  )

  // "50 minutes a week for a credit of lecture, 170 for one of laboratory": common practice, no source.
  it('gives every bundle contact minutes that agree with its credits', () => {
    for (const course of COURSES) {
      for (const bundle of bundlesOf(course, sections)) {
        if (bundle.sections.every(section => section.meetings.length === 0)) continue
        const half = bundle.sections[0]!.session !== 'full'
        const separate = course.parts.length > 1 ? 1 : 0
        const lab = course.parts.includes('lab') ? 170 : separate * 50
        const expected = course.parts[0] === 'lab' ? 170 : Math.max(1, course.credits / 100 - separate) * 50 + lab
        expect(Math.abs(weeklyMinutes(bundle.sections) / (half ? 2 : 1) - expected), `${course.code} ${bundle.id}`).toBeLessThanOrEqual(2)
      }
    }
  })

  it('never puts two classes into one room at one time, and is the same for the same seed', () => {
    expect(sections.length).toBeGreaterThanOrEqual(200)
    expect(makeSections(spring, COURSES, new Random(1), 1)).toEqual(sections)
    const taken = sections.flatMap(section =>
      section.meetings.filter(m => m.site !== 'online')
        .flatMap(m => m.days.map(day => ({ id: section.id, key: `${m.room} ${day}`, ...m }))),
    )
    for (const a of taken) {
      const other = taken.find(b =>
        b.id !== a.id && b.key === a.key && a.start < b.end && b.start < a.end && a.first <= b.last && b.first <= a.last,
      )
      expect(other, `${a.key} at ${a.start}`).toBeUndefined()
    }
  })
})
