import { setImmediate as turn } from 'node:timers/promises'
import { differencesOf, needsOf, urgencyOf } from '@ridgeway/core/advising'
import { termOrder, type TermCode } from '@ridgeway/core/catalog'
import { readStanding } from '@ridgeway/core/planning'
import { earnedCredits } from '@ridgeway/core/record'
import { openingFor } from '@ridgeway/core/registration'
import type { AdviseeRow } from '#shared/contract/views/advising'
import type { Asked } from '../college/asked'
import { type College, findTerm, programsAt } from '../college/college'
import { fileOf, planIn } from '../college/student'
import type { Database } from '../db/database'
import { adviseesOf, adviseeFacts, type AdviseeFacts, fileMarks } from '../db/store/advising'
import { type Dossier, readDossiers } from '../db/store/dossiers'

/** What a row says that comes of the file alone: it stays as long as the file, its plan, the catalog and the date do. */
interface Figures extends Omit<AdviseeRow, 'needs' | 'urgency' | 'since' | 'advisor'> {
  added: string[]
  gone: string[]
  registered: boolean
  gpaAsked: { now: number, asked: number } | null
  offPath: number
  holds: { reason: string }[]
  confirmed: boolean
}

/** Figures of students by number, each with what they were made of: this server's, and as good as new while that stands. */
const kept = new Map<string, Kept>()
interface Kept { made: string, figures: Figures }
const MOST_KEPT = 20_000
/** Files that are read in one go. */
const AT_ONCE = 100
/** Milliseconds that a request spends on reading requirements; what is left then is read while nobody waits for it. */
const BUDGET_MS = 500
/** Files whose requirements are still to be read, by what they are kept under. */
const waiting = new Map<string, () => Kept>()
let reading: Promise<void> | null = null

/** Nothing is known any more, for tests of what is read again. */
export const forgetFigures = () => {
  kept.clear()
  waiting.clear()
}
/** Resolves when nothing is left to be read. */
export const figuresSettled = async () => {
  while (reading) await reading
}

/**
 * An advisor's students and those of whom they are deputy, by need. Small statements tell whom one advises, which files have changed and
 * what is new; only changed files are read again, and other requests are served between two of them. Where many changed, what needs the
 * requirements comes a moment later, and the row says so.
 */
export async function readAdviseesView(database: Pick<Database, 'read'>, asked: Asked<{ term: string }>): Promise<AdviseeRow[]> {
  const { college, date, visitor, input } = asked
  findTerm(college, input.term)
  const { mine, marks, facts } = await database.read(async (db) => {
    const mine = await adviseesOf(db, visitor!.id, date)
    const ids = mine.map(one => one.student)
    return { mine, marks: await fileMarks(db, ids), facts: await adviseeFacts(db, visitor!.id, ids) }
  })
  const begun = performance.now()
  const madeOf = new Map(marks.map(({ student, mark }) => [student, `${mark} ${college.stamp} ${date}`]))
  const keyOf = (student: number) => `${student} ${input.term}`
  const stale = mine.map(one => one.student).filter(id => kept.get(keyOf(id))?.made !== madeOf.get(id))
  for (let at = 0; at < stale.length; at += AT_ONCE) {
    for (const dossier of (await database.read(db => readDossiers(db, stale.slice(at, at + AT_ONCE)))).values()) {
      const key = keyOf(dossier.id)
      // Of a file that changed while it was read the mark is the older one: it is read again the next time.
      const read = (whole: boolean): Kept => ({ made: madeOf.get(dossier.id) ?? '', figures: figuresOf(dossier, college, input.term, date,
        whole) })
      const inTime = performance.now() - begun < BUDGET_MS
      keep(key, read(inTime))
      if (inTime) waiting.delete(key)
      else waiting.set(key, () => read(true))
      await turn()
    }
  }
  if (waiting.size > 0) reading ??= readOn().finally(() => reading = null)
  return mine.flatMap(({ student, advisor }) => {
    const figures = kept.get(keyOf(student))?.figures
    return figures ? [rowOf(figures, facts.get(student), advisor, asked)] : []
  }).sort((a, b) => b.urgency - a.urgency || a.name.localeCompare(b.name) || a.id - b.id)
}

/** Reads on, one file after the other, with room for everybody else between two. */
async function readOn() {
  for (let next = waiting.entries().next(); !next.done; next = waiting.entries().next()) {
    const [key, read] = next.value
    waiting.delete(key)
    try {
      keep(key, read())
    }
    catch {
      // What cannot be read is read again when somebody asks, who is told.
      kept.delete(key)
    }
    await turn()
  }
}

function keep(key: string, one: { made: string, figures: Figures }) {
  kept.delete(key)
  kept.set(key, one)
  if (kept.size > MOST_KEPT) kept.delete(kept.keys().next().value!)
}

const isLater = (one: TermCode, other: TermCode) => termOrder(one) > termOrder(other)

function rowOf(figures: Figures, facts: AdviseeFacts | undefined, advisor: string | null, { college, at }: Asked<unknown>): AdviseeRow {
  const { added, gone, registered, gpaAsked, offPath, holds, confirmed, ...row } = figures
  const needs = needsOf({
    now: at, signOffAsked: row.asked, signedOff: row.signedOff, added, gone, exceptionsAsked: facts?.exceptions ?? 0,
    programAsked: (facts?.program ?? 0) > 0, blockers: row.blockers, opensAt: row.opensAt, registered, finish: row.finish,
    finishSeen: facts?.lookedAt && row.isWhole ? facts.finishSeen : undefined, comments: facts?.comments ?? 0, holds, gpa: gpaAsked,
    confirmed, offPath,
    planned: row.planned.reduce((sum, one) => sum + one.credits, 0), lastSign: facts?.lastSign ?? null,
    silentDays: college.advising.silentDays,
  }, isLater)
  return { ...row, advisor, needs, urgency: urgencyOf(needs),
    since: facts?.lookedAt ? { at: facts.lookedAt, edits: facts.edits, comments: facts.comments } : null }
}

/** Without `whole` the requirements are left out: finish, averages and what counts for nothing are not known then. */
function figuresOf(dossier: Dossier, college: College, term: string, date: string, whole: boolean): Figures {
  const programs = programsAt(college, dossier.programs)
  const catalog = { ...college.catalog, programs }
  const file = fileOf(dossier, college, term, planIn(dossier).plan, date)
  const standing = readStanding(whole ? file : { ...file, programs: [] }, catalog, date)
  const signed = dossier.signOffs.find(one => one.term === term)
  const asked = dossier.asked.find(one => one.term === term && !one.returned)
  const planned = file.entries.filter(entry => entry.term === term).map(({ course, credits }) => ({ course, credits }))
  // What is registered was agreed as much as what is planned.
  const now = [...planned, ...dossier.registered.filter(row => row.term === term && row.credits > 0
    && !planned.some(one => one.course === row.course)).map(({ course, credits }) => ({ course, credits }))]
  const { added, gone } = signed ? differencesOf(signed.copy, now) : { added: [], gone: [] }
  const low = standing.checks.flatMap(check => check.kind === 'gpa' && check.rule.reading.kind === 'gpa' && check.rule.reading.now !== null
    ? [{ now: check.rule.reading.now, asked: check.rule.reading.asked }]
    : [])[0]
  // What counts for nothing is known with the requirements alone.
  const offPath = standing.items.filter(item => whole && standing.offPath.includes(item.id) && item.state !== 'completed')
    .reduce((sum, item) => sum + item.credits, 0)
  return {
    id: dossier.id, name: dossier.name, program: programs[0]?.title ?? 'no program', earned: standing.earned, gpa: standing.gpa.value,
    planned, blockers: standing.checks.filter(check => check.severity === 'blocker' && check.term === term).length,
    opensAt: openingFor(college.openings.filter(rule => rule.term === term), file.programs,
      earnedCredits(file.record, college.catalog))?.from ?? null,
    asked: asked?.at ?? null, signedOff: signed !== undefined, finish: whole ? standing.finish : null, isWhole: whole, added, gone,
    registered: dossier.registered.some(row => row.term === term), gpaAsked: low ?? null,
    offPath,
    holds: dossier.holds, confirmed: dossier.programConfirmed,
  }
}
