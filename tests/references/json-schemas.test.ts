import { readFileSync } from 'node:fs'
import Ajv2020 from 'ajv/dist/2020'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { EMPTY_PLAN } from '@ridgeway/core/planning'
import { LETTER_SCALE } from '@ridgeway/core/grades'
import { linesOfProgram } from '@ridgeway/core/requirements'
import { casesJsonSchema, collegeJsonSchema, planJsonSchema, plansJsonSchema, programJsonSchema, readPlanJson, readPlansJson,
  readProgramText,
  readRecordsJson, recordsJsonSchema, writeCollege, writePlanJson, writePlansJson, writeProgramText,
  writeRecordsJson } from '@ridgeway/formats'
import { COURSES } from '../../demo/courses'
import { PROGRAMS } from '../../demo/programs'
import { TERMS } from '../../demo/calendar'

/**
 * The published schemas (JSON Schema, draft 2020-12) by an independent validator: they are schemas, they take what we write, and what they
 * refuse our own readers refuse as well.
 */
const ajv = () => new Ajv2020({ strict: false, allErrors: false, validateFormats: false })
const courses = new Map(COURSES.map(course => [course.code, course]))
const plan = { ...EMPTY_PLAN, entries: [
  { id: 'a', course: 'HYD 110', term: '2027SP', credits: courses.get('HYD 110')!.credits, pinned: true, pinnedUse: null, note: 'early' },
  { id: 'b', course: 'MTH 140', term: '2027FA', credits: courses.get('MTH 140')!.credits, pinned: false, pinnedUse: null, note: '' },
] }
const known = { courses, terms: TERMS, lines: new Set(PROGRAMS.flatMap(one => linesOfProgram(one).map(line => `${one.code}/${line.id}`))) }
const readProgram = (text: string) => readProgramText(text, { courses, scale: LETTER_SCALE,
  programs: new Set(PROGRAMS.map(one => one.code)) })
const RECORDS = [
  { username: 'joss', course: 'HYD 110', term: '2026SP', attempt: 1, credits: 400, grade: 'B+', earnedGrade: null, topic: null,
    gradedAt: null,
    state: 'completed' as const, source: 'here' as const },
  { username: 'joss', course: 'OCE 150', term: null, attempt: 1, credits: 267, grade: 'TR', earnedGrade: 'B', topic: null, gradedAt: null,
    state: 'completed' as const, source: 'transfer' as const },
]

const SUBJECTS: [name: string, schema: object, text: string, accepts: (text: string) => boolean][] = [
  ...PROGRAMS.map((program): [string, object, string, (text: string) => boolean] =>
    [`program ${program.code}`, programJsonSchema(), writeProgramText(program), text => readProgram(text).ok]),
  ['plan', planJsonSchema(), writePlanJson('Main', plan), text => readPlanJson(text, known).ok],
  ['plans', plansJsonSchema(), writePlansJson([{ username: 'joss', name: 'Main', current: true, plan },
    { username: 'ada', name: 'Slow', current: false, plan: EMPTY_PLAN }]), text => readPlansJson(text, known).problems.length === 0],
  ['records', recordsJsonSchema(), writeRecordsJson(RECORDS), text => readRecordsJson(text).problems.length === 0],
]

/** Every place of a JSON value, as the keys that lead there. */
function places(value: unknown, path: (string | number)[] = []): (string | number)[][] {
  if (typeof value !== 'object' || value === null) return [path]
  return [path, ...Object.entries(value).flatMap(([key, inner]) => places(inner, [...path, Array.isArray(value) ? Number(key) : key]))]
}

function changed(json: unknown, path: (string | number)[], how: 'gone' | 'number' | 'text' | 'list' | 'stranger'): unknown {
  const copy = structuredClone(json) as Record<string | number, unknown>
  let at = copy
  for (const key of path.slice(0, -1)) at = at[key] as Record<string | number, unknown>
  const last = path.at(-1)
  if (how === 'stranger') {
    const target = (last === undefined ? copy : at[last]) as Record<string, unknown>
    if (typeof target === 'object' && target !== null && !Array.isArray(target)) target.stranger = 1
  }
  else if (last === undefined) return how === 'list' ? [] : how === 'text' ? 'x' : 7
  else if (how === 'gone' && Array.isArray(at)) at.splice(Number(last), 1)
  else if (how === 'gone') Reflect.deleteProperty(at, last)
  else at[last] = how === 'number' ? -7.125 : how === 'text' ? '' : []
  return copy
}

describe('the schemas of the files, by an independent validator', () => {
  it.each([['program', programJsonSchema()], ['plan', planJsonSchema()], ['cases', casesJsonSchema()], ['college', collegeJsonSchema()],
    ['records', recordsJsonSchema()], ['plans', plansJsonSchema()]])('%s: is a schema, by the draft that it names', (_, schema) => {
    const validator = ajv()
    expect((schema as { $schema: string }).$schema).toBe('https://json-schema.org/draft/2020-12/schema')
    expect(validator.validateSchema(schema)).toBe(true)
    expect(() => validator.compile(schema)).not.toThrow()
  })

  it.each(SUBJECTS)('%s: takes what is written', (_, schema, text, accepts) => {
    const validate = ajv().compile(schema)
    expect(validate(JSON.parse(text)), JSON.stringify(validate.errors)).toBe(true)
    expect(accepts(text)).toBe(true)
  })

  it.each([['records', recordsJsonSchema()], ['plans', plansJsonSchema()]])('%s: the documented schema is that of the reader', (name,
    schema) => {
    expect(JSON.parse(readFileSync(`docs/formats/${name}.schema.json`, 'utf8'))).toEqual(schema)
  })

  it('takes the files of worked cases, and the college\'s own', () => {
    const cases = ajv().compile(casesJsonSchema())
    for (const file of ['audit', 'averages', 'catalog-rules', 'drafts', 'plan', 'prerequisites', 'registration', 'whole-programs', 'words'])
      expect(cases(JSON.parse(readFileSync(`tests/cases/${file}.json`, 'utf8'))), `${file} ${JSON.stringify(cases.errors)}`).toBe(true)
    const written = writeCollege({ institution: { name: 'Larkmoor', zone: 'America/Denver', repeatPolicy: 'best', termsText: '' },
      programs: [],
      rows: { sites: [], travel: [], terms: [], sessions: [], openings: [], courses: [], sections: [], people: [], records: [] } })
    expect(ajv().compile(collegeJsonSchema())(JSON.parse(written['college.json']!))).toBe(true)
  })

  it('what a schema refuses, the reader refuses as well, in files changed at random', () => {
    const checks = SUBJECTS.map(([name, schema, text, accepts]) => ({ name, accepts, validate: ajv().compile(schema),
      json: JSON.parse(text) as unknown,
      paths: places(JSON.parse(text)) }))
    let refused = 0
    fc.assert(fc.property(fc.nat(checks.length - 1), fc.nat(), fc.constantFrom('gone', 'number', 'text', 'list', 'stranger'), (which, at,
      how) => {
      const { name, accepts, validate, json, paths } = checks[which]!
      const path = paths[at % paths.length]!
      const other = changed(json, path, how)
      if (validate(other)) return
      refused++
      expect(accepts(JSON.stringify(other)), `${name}: ${path.join('.')} ${how}`).toBe(false)
    }), { numRuns: 1500 })
    expect(refused).toBeGreaterThan(200)
  })
})
