import { z } from 'zod'
import { COURSE_CODE } from '@ridgeway/core/catalog'
import type { Plan } from '@ridgeway/core/planning'
import { checkShape, readJson } from '../json'
import { type KnownCatalog, PlanShape, readPlanShape, shapeOfPlan } from '../plan'
import type { CollegeProblem, RowPlace } from './table'
import type { CollegeRows } from './tables'

/** Name the shapes and their versions; a file of another one is refused. */
const RECORDS_FORMAT = 'ridgeway-records/1'
const PLANS_FORMAT = 'ridgeway-plans/1'
export const RECORDS_FILE = 'records.json'
export const PLANS_FILE = 'plans.json'

const student = z.string().regex(/^[a-z0-9][a-z0-9._-]{0,39}$/, 'a sign-in name')
const RecordsFile = z.strictObject({
  $schema: z.string().optional(),
  format: z.literal(RECORDS_FORMAT, `this must be "${RECORDS_FORMAT}"`),
  records: z.array(z.strictObject({
    student,
    course: z.string().regex(COURSE_CODE, 'a course code such as HYD 230'),
    term: z.string().regex(/^\d{4}(SP|SU|FA)$/, 'a term code such as 2027SP').nullable().default(null),
    attempt: z.number().int().min(1).max(20).default(1),
    credits: z.number().min(0).max(60).multipleOf(0.01),
    grade: z.string().min(1).max(3).nullable().default(null),
    earnedGrade: z.string().min(1).max(3).nullable().default(null),
    topic: z.string().min(1).max(120).nullable().default(null),
    gradedAt: z.iso.datetime().nullable().default(null),
    state: z.enum(['completed', 'under way']).default('completed'),
    source: z.enum(['here', 'transfer', 'exam']).default('here'),
  })),
}).meta({ title: 'Ridgeway records', description: 'What students have taken, an attempt each; the same rows as records.csv.' })
const PlansFile = z.strictObject({
  $schema: z.string().optional(),
  format: z.literal(PLANS_FORMAT, `this must be "${PLANS_FORMAT}"`),
  plans: z.array(z.strictObject({ student, current: z.boolean().default(false), plan: PlanShape })),
}).meta({ title: 'Ridgeway plans', description: 'Plans of many students; a student has one plan of a name.' })
export const recordsJsonSchema = () => z.toJSONSchema(RecordsFile, { io: 'input' })
export const plansJsonSchema = () => z.toJSONSchema(PlansFile, { io: 'input' })

type Record = CollegeRows['records'][number]

/** Rows of a file with their places. */
interface ReadRecords { rows: Record[], places: Map<unknown, RowPlace>, problems: CollegeProblem[] }
/** The records of a file, as rows of their table; each problem names its line, or the record by its number. */
export function readRecordsJson(content: string): ReadRecords {
  const read = readFile(RECORDS_FILE, content, RecordsFile)
  if (!read.ok) return { rows: [], places: new Map(), problems: read.problems }
  const places = new Map<unknown, RowPlace>()
  const seen = new Map<string, number>()
  const problems: CollegeProblem[] = []
  const rows = read.data.records.flatMap(({ student: username, credits, ...one }, i): Record[] => {
    const row = { username, ...one, credits: Math.round(credits * 100) }
    const key = `${username} ${row.course} ${row.term} ${row.attempt}`
    const before = seen.get(key)
    if (before !== undefined) {
      problems.push({ file: RECORDS_FILE, row: i + 1, column: null, message: `${key} stands in record ${before} already.` })
      return []
    }
    seen.set(key, i + 1)
    places.set(row, { file: RECORDS_FILE, row: i + 1 })
    return [row]
  })
  return { rows, places, problems }
}

/** A plan of a student, by its name. */
export interface StudentPlan {
  username: string
  name: string
  current: boolean
  plan: Plan
}

/** Plans of a file, each with its number there. */
interface ReadPlans { plans: (StudentPlan & { at: number })[], problems: CollegeProblem[] }
/** The plans of a file; each problem names its line, or the plan by its number. */
export function readPlansJson(content: string, known: KnownCatalog): ReadPlans {
  const file = readFile(PLANS_FILE, content, PlansFile)
  if (!file.ok) return { plans: [], problems: file.problems }
  const problems: CollegeProblem[] = []
  const seen = new Map<string, number>()
  const plans = file.data.plans.flatMap(({ student: username, current, plan: shape }, i) => {
    const say = (message: string) => problems.push({ file: PLANS_FILE, row: i + 1, column: null, message })
    const read = readPlanShape(shape, known)
    if (!read.ok) read.problems.forEach(({ message }) => say(message))
    const key = `${username} ${shape.name}`
    const before = seen.get(key)
    if (before !== undefined) say(`${username} has a plan "${shape.name}" in plan ${before} of this file already.`)
    else seen.set(key, i + 1)
    return read.ok ? [{ username, name: shape.name, current, plan: read.plan, at: i + 1 }] : []
  })
  for (const username of new Set(plans.map(one => one.username))) {
    const current = plans.filter(one => one.username === username && one.current)
    if (current.length > 1) problems.push({ file: PLANS_FILE, row: current[1]!.at, column: 'current',
      message: `${username} has one current plan, and two say that they are it.` })
  }
  return { plans, problems }
}

type FileRead<T> = { ok: true, data: T } | { ok: false, problems: CollegeProblem[] }
/** What a file holds, or its problems by line. */
function readFile<T>(file: string, content: string, shape: z.ZodType<T>): FileRead<T> {
  const read = readJson(content)
  const checked = read.ok ? checkShape(shape, read.json) : read
  if (checked.ok) return checked
  return { ok: false, problems: checked.problems.map(({ line, path, message }) => ({ file, row: line, column: path || null, message })) }
}

/** Writes records; reading them gives the same rows, and the same rows give the same bytes. */
export function writeRecordsJson(rows: readonly Record[]): string {
  const key = (row: Record) => `${row.username} ${row.term ?? ''} ${row.course} ${row.attempt}`
  const records = [...rows].sort((a, b) => key(a) < key(b) ? -1 : 1).map(({ username, course, term, attempt, credits, grade, earnedGrade,
    topic, gradedAt,
    state, source }) => ({ student: username, course, term, attempt, credits: credits / 100, grade, earnedGrade,
    topic, gradedAt, state, source }))
  return inLines(RECORDS_FORMAT, 'records', records)
}

/** Writes plans; reading them gives the same plans, except that ids are made anew, and the same plans give the same bytes. */
export function writePlansJson(plans: readonly StudentPlan[]): string {
  const key = (one: StudentPlan) => `${one.username} ${one.name}`
  return inLines(PLANS_FORMAT, 'plans', [...plans].sort((a, b) => key(a) < key(b) ? -1 : 1)
    .map(({ username, name, current, plan }) => ({ student: username, current, plan: shapeOfPlan(name, plan) })))
}

/** One line each: a file of many is still read by people, and compared line by line. */
const inLines = (format: string, name: string, all: readonly unknown[]): string =>
  `{ "format": "${format}", "${name}": [${all.map(one => `\n  ${JSON.stringify(one)}`).join(',')}\n] }\n`
