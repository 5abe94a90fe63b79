import Papa from 'papaparse'
import { z } from 'zod'
import { type Course, COURSE_CODE, type Term } from '@ridgeway/core/catalog'
import { EMPTY_PLAN, type Plan } from '@ridgeway/core/planning'
import { type LineRef, newEntryId } from '@ridgeway/core/record'
import { formatCredits } from '@ridgeway/words'
import { checkShape, type FormatProblem, readJson, sayPath } from './json'
import { delimiterOf, harmless, plainCell } from './spreadsheet'

/** Names the shape and its version; a file of another one is refused. */
const PLAN_FORMAT = 'ridgeway-plan/1'

const term = z.string().regex(/^\d{4}(SP|SU|FA)$/, 'a term code such as 2027SP')
const course = z.string().regex(COURSE_CODE, 'a course code such as HYD 230')
const credits = z.number().min(0).max(20).multipleOf(0.01)
const line = z.string().regex(/^[A-Z][A-Z0-9-]{1,18}\/[a-z0-9-]{1,40}$/, 'a requirement line such as WSC-BS/voices')

/** A plan: courses by term, places still to choose, wishes and notes. Credits are written as people write them: 3 or 1.5. */
export const PlanShape = z.strictObject({
  name: z.string().trim().min(1).max(60),
  note: z.string().max(2000).default(''),
  wishes: z.strictObject({ creditsPerTerm: credits.nullable().default(null), termsOff: z.array(term).default([]),
    latestFinish: term.nullable().default(null) }).optional(),
  terms: z.array(z.strictObject({
    term,
    note: z.string().max(500).default(''),
    courses: z.array(
      z.strictObject({ course, credits: credits.optional(), pinned: z.boolean().default(false), countsFor: line.nullable().default(null),
        note: z.string().max(500).default('') }),
    ).default([]),
    toChoose: z.array(z.strictObject({ countsFor: line, credits, note: z.string().max(500).default('') })).default([]),
  })),
})
/** A plan as a file. */
const PlanFile = z.strictObject({
  $schema: z.string().optional(),
  format: z.literal(PLAN_FORMAT, `this must be "${PLAN_FORMAT}"`),
  ...PlanShape.shape,
})

export const planJsonSchema = () => z.toJSONSchema(PlanFile, { io: 'input' })

interface PlanFileProblem {
  row: number | null
  message: string
}
export type ReadPlan = { ok: true, name: string, plan: Plan } | { ok: false, problems: PlanFileProblem[] }

export interface KnownCatalog {
  courses: ReadonlyMap<string, Course>
  terms: readonly Pick<Term, 'code'>[]
  lines: ReadonlySet<string>
}

/** Writes a plan as JSON; reading it gives the same plan, except that ids are made anew. */
export const writePlanJson = (name: string, plan: Plan): string =>
  `${JSON.stringify({ format: PLAN_FORMAT, ...shapeOfPlan(name, plan) }, null, 2)}\n`

/** A plan in the shape of its file. */
export function shapeOfPlan(name: string, plan: Plan): z.input<typeof PlanShape> {
  const codes = [
    ...new Set([...plan.entries.map(entry => entry.term), ...plan.placeholders.map(one => one.term), ...Object.keys(plan.termNotes)]),
  ].sort(byTerm)
  const { target, termsOff, latestFinish } = plan.wishes
  return {
    name,
    note: plan.note,
    wishes: { creditsPerTerm: target === null ? null : target / 100, termsOff, latestFinish },
    terms: codes.map(code => ({
      term: code,
      note: plan.termNotes[code] ?? '',
      courses: plan.entries.filter(entry => entry.term === code).sort((a, b) => a.course.localeCompare(b.course))
        .map(entry => ({ course: entry.course, credits: entry.credits / 100, pinned: entry.pinned, countsFor: entry.pinnedUse,
          note: entry.note }),
        ),
      toChoose: plan.placeholders.filter(one => one.term === code).map(one => ({ countsFor: one.line, credits: one.credits / 100,
        note: one.note }),
      ),
    })),
  }
}

const byTerm = (a: string, b: string) =>
  a.slice(0, 4).localeCompare(b.slice(0, 4)) || 'SPSUFA'.indexOf(a.slice(4)) - 'SPSUFA'.indexOf(b.slice(4))

/** Reads a plan file; all of it is right, or the problems are named and nothing is taken. */
export function readPlanJson(text: string, known: KnownCatalog): ReadPlan {
  const read = readJson(text)
  if (!read.ok) return { ok: false, problems: read.problems.map(toPlanProblem) }
  const shape = checkShape(PlanFile, read.json)
  if (!shape.ok) return { ok: false, problems: shape.problems.slice(0, 20).map(toPlanProblem) }
  return readPlanShape(shape.data, known)
}

/** Reads a plan that has the shape of its file; the problems are named by where they stand in it. */
export function readPlanShape({ name, note, wishes, terms }: z.output<typeof PlanShape>, known: KnownCatalog): ReadPlan {
  const builder = new Builder(known)
  terms.forEach((one, t) => {
    one.courses.forEach((entry, c) =>
      builder.add(null, `${sayPath(['terms', t, 'courses', c])}: `, { ...entry, term: one.term, credits: entry.credits ?? null }),
    )
    one.toChoose.forEach((place, p) => builder.hold(null, `${sayPath(['terms', t, 'toChoose', p])}: `, { ...place, term: one.term }))
    builder.checkTerm(null, `${sayPath(['terms', t])}: `, one.term)
  })
  const termNotes = Object.fromEntries(terms.flatMap(one => one.note ? [[one.term, one.note]] : []))
  const target = wishes?.creditsPerTerm ?? null
  return builder.finish(name, { note, termNotes,
    wishes: { target: target === null ? null : Math.round(target * 100), termsOff: wishes?.termsOff ?? [],
      latestFinish: wishes?.latestFinish ?? null } })
}

const toPlanProblem = ({ line, path, message }: FormatProblem): PlanFileProblem => ({ row: null,
  message: `Line ${line}${path ? `, ${path}` : ''}: ${message}` })

const PLAN_COLUMNS = ['term', 'course', 'title', 'credits', 'pinned', 'counts for', 'note'] as const

/**
 * A plan as a table (RFC 4180), one row a course or place to choose. A cell that a spreadsheet would run as a formula gets an apostrophe
 * before it.
 */
export function writePlanCsv(plan: Plan, courses: ReadonlyMap<string, Course>): string {
  const rows = [
    ...plan.entries.map(
      entry => [entry.term, entry.course, courses.get(entry.course)?.title ?? '', formatCredits(entry.credits), entry.pinned ? 'yes' : '',
        entry.pinnedUse ?? '', entry.note],
    ),
    ...plan.placeholders.map(one => [one.term, '', 'to choose', formatCredits(one.credits), '', one.line, one.note]),
  ].sort((a, b) => byTerm(a[0]!, b[0]!) || a[1]!.localeCompare(b[1]!))
  return `${Papa.unparse({ fields: [...PLAN_COLUMNS], data: rows.map(row => row.map(harmless)) })}\r\n`
}

/** Reads a plan from a table with at least the columns "term" and "course"; problems name the row, the header being row 1. */
export function readPlanCsv(text: string, name: string, known: KnownCatalog): ReadPlan {
  const clean = text.replace(/^\uFEFF/, '')
  // Blank lines are read and passed over, so that a row keeps the number that a spreadsheet shows.
  const { data, meta, errors } = Papa.parse<Record<string, string>>(clean, { header: true, skipEmptyLines: false,
    delimiter: delimiterOf(clean),
    transformHeader: header => header.trim().toLowerCase() })
  const broken = errors.find(error => error.type === 'Quotes')
  if (broken) return { ok: false, problems: [{ row: (broken.row ?? 0) + 1, message: 'A quotation mark is not closed.' }] }
  const lacking = ['term', 'course'].filter(column => !meta.fields?.includes(column))
  if (lacking.length > 0)
    return { ok: false, problems: [{ row: 1, message: `The column ${
      lacking.map(column => `"${column}"`).join(' and ')
    } is missing. The first row names the columns: ${PLAN_COLUMNS.join(', ')}.` }] }
  const builder = new Builder(known)
  data.forEach((cells, index) => {
    if (Object.values(cells).every(value => typeof value !== 'string' || value.trim() === '')) return
    const cell = (column: typeof PLAN_COLUMNS[number]) => plainCell((cells[column] ?? '').replace(/\r\n/g, '\n')).trim()
    const row = index + 2
    const amount = cell('credits') === '' ? null : Number(cell('credits'))
    if (amount !== null && !(amount >= 0 && amount <= 20))
      return builder.say(row, `"${cell('credits')}" is no number of credits from 0 to 20.`)
    const countsFor = cell('counts for') || null
    const placed = { term: cell('term').toUpperCase(), note: plainCell((cells.note ?? '').replace(/\r\n/g, '\n')).slice(0, 500),
      credits: amount }
    if (cell('course') === '') {
      if (!countsFor) return builder.say(row, 'There is neither a course nor a line that it counts for.')
      return builder.hold(row, '', { ...placed, countsFor, credits: amount ?? 3 })
    }
    builder.add(row, '', { ...placed, course: cell('course').toUpperCase(), pinned: /^(yes|true|1|x)$/i.test(cell('pinned')), countsFor })
  })
  return builder.finish(name, {})
}

interface FileEntry {
  term: string
  course: string
  credits: number | null
  pinned: boolean
  countsFor: string | null
  note: string
}

/** Collects a plan from a file and everything that is wrong with it. */
class Builder {
  private readonly plan: Plan = { ...EMPTY_PLAN, entries: [], placeholders: [] }
  private readonly problems: PlanFileProblem[] = []
  private readonly codes: ReadonlySet<string>

  constructor(private readonly known: KnownCatalog) {
    this.codes = new Set(known.terms.map(one => one.code))
  }

  say(row: number | null, message: string) {
    this.problems.push({ row, message })
  }

  checkTerm(row: number | null, where: string, code: string): boolean {
    if (this.codes.has(code)) return true
    this.say(row, `${where}there is no term "${code}". Terms are written like 2027SP.`)
    return false
  }

  private checkLine(row: number | null, where: string, countsFor: string | null): boolean {
    if (countsFor === null || this.known.lines.has(countsFor)) return true
    this.say(row, `${where}"${countsFor}" is no line of these programs.`)
    return false
  }

  add(row: number | null, where: string, { term: code, course: courseCode, credits: amount, pinned, countsFor, note }: FileEntry) {
    const found = this.known.courses.get(courseCode)
    if (!found) this.say(row, `${where}there is no course "${courseCode}" in the catalog.`)
    const inOrder = this.checkTerm(row, where, code) && this.checkLine(row, where, countsFor)
    if (!found || !inOrder) return
    const value = amount === null ? found.credits : Math.round(amount * 100)
    if (value < found.credits || value > found.creditsMax)
      return this.say(row,
        `${where}${courseCode} has ${formatCredits(found.credits)}${
          found.creditsMax > found.credits ? ` to ${formatCredits(found.creditsMax)}` : ''
        } credits, not ${formatCredits(value)}.`)
    if (this.plan.entries.some(entry => entry.course === courseCode && entry.term === code))
      return this.say(row, `${where}${courseCode} stands in ${code} twice.`)
    this.plan.entries.push({ id: newEntryId(courseCode, code), course: courseCode, term: code, credits: value, pinned,
      pinnedUse: countsFor as LineRef | null, note })
  }

  hold(row: number | null, where: string,
    { term: code, countsFor, credits: amount, note }: { term: string, countsFor: string, credits: number, note: string }) {
    if (!this.checkTerm(row, where, code) || !this.checkLine(row, where, countsFor)) return
    this.plan.placeholders.push({ id: `hold-${this.plan.placeholders.length + 1}-${code}`, line: countsFor as LineRef, term: code,
      credits: Math.round(amount * 100), note })
  }

  finish(name: string, more: Partial<Plan>): ReadPlan {
    return this.problems.length > 0 ? { ok: false, problems: this.problems } : { ok: true, name, plan: { ...this.plan, ...more } }
  }
}
