import { describe, expect, it } from 'vitest'
import { LETTER_SCALE } from '@ridgeway/core/grades'
import type { Program } from '@ridgeway/core/requirements'
import { course, courseMap, item, planned, term } from '../../../tests/builders'
import { caseOfRecord, readCases, runCases } from './cases'
import { readProgramText } from './program'

const COURSES = courseMap(course('AAA 100'), course('AAA 200', { credits: 400 }), course('BBB 100'), course('BBB 200'))
const CONTEXT = { courses: COURSES, scale: LETTER_SCALE, programs: new Set<string>() }
const text = (credits: number) => JSON.stringify({ format: 'ridgeway-program/2', code: 'AAA-MIN', kind: 'minor', title: 'A minor',
  catalogYear: 2026, totalCredits: 12, areas: [{ id: 'all', title: 'All', hue: 'moss', children: [
    { kind: 'courses', id: 'core', title: 'Core', filter: { list: ['AAA 100', 'AAA 200'] }, courses: 2 },
    { kind: 'courses', id: 'free', title: 'Free', filter: { subjects: ['BBB'] }, credits }] }] })
const programOf = (credits: number): Program => {
  const read = readProgramText(text(credits), CONTEXT)
  if (!read.ok) throw new Error(read.problems[0]!.message)
  return read.program
}
const around = (credits: number) => ({ courses: COURSES, terms: [term('2025FA'), term('2027SP')], scale: LETTER_SCALE,
  repeatPolicy: 'best' as const, programs: [programOf(credits)] })

describe('a record kept as a worked case of a program', () => {
  const record = { items: [item('AAA 100'), item('AAA 200', { credits: 400, earnedGrade: 'A', source: 'transfer', grade: 'TR' }),
    item('BBB 100', { state: 'under way' }), planned('BBB 200', '2027SP')], milestones: [], placements: { MTH: 60 } }
  const kept = caseOfRecord('A record', record, around(6), '2026-11-09')
  const file = (one = kept) => {
    const read = readCases(JSON.stringify({ format: 'ridgeway-cases/1', cases: [one] }))
    if (!read.ok) throw new Error(JSON.stringify(read.problems))
    return read.file
  }
  it('holds as it was kept, also after it was written and read', () => {
    expect(kept.expect.lines).toEqual({ 'AAA-MIN/core': { state: 'met' }, 'AAA-MIN/free': { state: 'covered' } })
    expect(runCases(file(), around(6))).toMatchObject([{ problem: null, mismatches: [] }])
  })
  it('says what comes out otherwise when the rules change', () => {
    const [result] = runCases(file(), around(9))
    expect(result!.mismatches).toContainEqual({ about: 'line AAA-MIN/free, state', expected: 'covered', actual: 'open' })
    expect(result!.mismatches).toContainEqual({ about: 'program AAA-MIN, open', expected: 0, actual: 3 })
  })
  it('holds nothing of whose record it is', () => {
    expect(JSON.stringify(kept)).not.toMatch(/"id"/)
  })
})
