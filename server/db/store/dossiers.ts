import type { SelfCheck } from '@ridgeway/core/advising'
import type { CourseItem, GradingMode, Meeting } from '@ridgeway/core/catalog'
import type { PlanEntry } from '@ridgeway/core/planning'
import type { Executor } from '../database'
import type { PlanDetails } from '../schema'
import { plain, type Statement, toInstant } from './plain'

/** What stands about one student, as the rules and every screen read it. */
export interface Dossier {
  id: number
  version: number
  name: string
  email: string
  advisor: number | null
  programConfirmed: boolean
  residence: string
  targetLoad: number | null
  placements: Record<string, number>
  cohorts: string[]
  /** Program ids, in order. */
  programs: string[]
  record: (Omit<CourseItem, 'id'> & { id: number })[]
  registered: OnFile[]
  /** Plans that are not deleted, oldest first. */
  plans: { id: number, name: string, version: number, current: boolean, details: PlanDetails }[]
  /** Entries of the plan that was asked for. */
  entries: (PlanEntry & { plan: number })[]
  lineUp: LineOnFile[]
  exceptions: ExceptionOnFile[]
  holds: { reason: string, contact: string, placed: string }[]
  signOffs: { term: string, by: string, at: string, note: string, copy: PlanEntry[] }[]
  asked: { term: string, at: string, note: string, answers: SelfCheck | null, returned: Returned | null }[]
  accepted: { term: string, at: string }[]
  /** Terms that a code released, with the moment at which it was used. */
  released: { term: string, at: string }[]
  waitlisted: Waiting[]
  usePins: { item: string, program: string, line: string }[]
  milestones: { program: string, milestone: string }[]
}

/** A request for sign-off that came back: with what is to be changed, or because a sign-off was withdrawn. */
export interface Returned { by: string, at: string, words: string, withdrawn: boolean }

/** A registered section, with what was charged for it in cents. */
interface OnFile {
  id: number
  section: number
  course: string
  label: string
  term: string
  session: string
  credits: number
  grading: GradingMode
  /** The topic of its section; empty where it has none. */
  topic: string
  tuition: number
  fees: number
  at: string
  run: string
}

/** A place on a waitlist: of which section, and the bundle that is waited for. */
interface Waiting {
  id: number
  section: number
  term: string
  course: string
  label: string
  place: number
  offerUntil: string | null
  bundle: number[]
  /** Courses to give up when a seat is offered, decided beforehand; null leaves that to the student. */
  exchange: string[] | null
}

/** A row of a line-up; `seen` is when and where it met as it was picked. */
export interface LineOnFile {
  id: number
  term: string
  course: string
  position: number
  sectionIds: number[]
  backups: number[][]
  waitIfFull: boolean
  grading: GradingMode
  credits: number | null
  seen: Meeting[] | null
}

interface ExceptionOnFile {
  id: number
  kind: string
  course: string | null
  term: string | null
  value: number | null
  program: string | null
  line: string | null
  instead: string | null
  /** The section of a seat permission, and the last date on which it holds. */
  section: number | null
  until: string | null
  reason: string
  by: string
}

/** One row of the one statement: what its columns hold depends on the kind. */
interface Row extends Record<'student' | 'i' | 'j' | 'n' | 'm', number>, Record<'a' | 'b' | 'c' | 'd', string> { kind: keyof typeof TAKE }

/** The parts of the one statement: eight columns each, ids of students as its only placeholder, `{plan}` where plans are chosen. */
const PARTS = [
  `SELECT 'student' kind, s.person student, s.advisor i, s.program_confirmed j, s.target_load n, s.version m, p.name a,
     CONCAT(p.email, '|', s.residence) b,
     s.cohorts c, s.placements d FROM students s JOIN people p ON p.id = s.person WHERE s.person IN (?)`,
  'SELECT \'program\', student, position, NULL, NULL, NULL, program, NULL, NULL, NULL FROM student_programs WHERE student IN (?)',
  `SELECT 'record', student, id, credits, NULL, NULL, course, term, grade,
     CONCAT_WS('|', state, source, IFNULL(earned_grade, ''), IFNULL(graded_at, ''), IFNULL(topic, '')) FROM records WHERE student IN (?)`,
  `SELECT 'registered', r.student, r.section, r.credits, r.id, NULL, r.course, r.term, s.label,
     CONCAT_WS('|', r.registered_at, r.run, s.session, r.grading, r.tuition, r.fees, s.topic)
   FROM registrations r JOIN sections s ON s.id = r.section WHERE r.student IN (?) AND NOT r.graded`,
  `SELECT 'plan', student, id, version, is_current, NULL, name, NULL, NULL, details FROM plans
   WHERE student IN (?) AND deleted_at IS NULL`,
  `SELECT 'entry', p.student, e.plan, e.credits, e.pinned, NULL, e.course, e.term, e.id, JSON_ARRAY(e.pinned_use, e.note)
   FROM plan_entries e JOIN plans p ON p.id = e.plan WHERE p.student IN (?) AND p.deleted_at IS NULL AND {plan}`,
  `SELECT 'line', student, id, position, credits, wait_if_full, course, term, grading, JSON_ARRAY(section_ids, backups, seen)
   FROM line_up_rows WHERE student IN (?)`,
  `SELECT 'exception', e.student, e.id, e.value, NULL, NULL, e.course, e.term, e.kind,
     JSON_ARRAY(e.program, e.line, e.instead, e.reason, p.name, e.section, e.until_date)
   FROM exceptions e JOIN people p ON p.id = e.granted_by WHERE e.student IN (?)`,
  `SELECT 'hold', student, id, NULL, NULL, NULL, reason, contact, placed_at, NULL FROM holds
   WHERE student IN (?) AND cleared_at IS NULL`,
  `SELECT 'signed', o.student, o.id, NULL, NULL, NULL, p.name, o.term, o.signed_at, JSON_ARRAY(o.note, o.copy)
   FROM sign_offs o JOIN people p ON p.id = o.advisor WHERE o.student IN (?)`,
  `SELECT 'asked', student, 0, NULL, NULL, NULL, asked_at, term, note, JSON_ARRAY(answers, returned) FROM sign_off_requests
   WHERE student IN (?)`,
  'SELECT \'accepted\', student, 0, NULL, NULL, NULL, accepted_at, term, NULL, NULL FROM terms_acceptances WHERE student IN (?)',
  `SELECT 'waiting', w.student, w.section, (SELECT COUNT(*) FROM waitlist_entries o WHERE o.section = w.section
     AND (o.joined_at < w.joined_at OR (o.joined_at = w.joined_at AND o.id <= w.id))), w.id, NULL, s.course, s.term, s.label,
     CONCAT_WS('|', w.bundle, IFNULL(w.offer_until, ''), IFNULL(w.exchange_for, ''))
   FROM waitlist_entries w JOIN sections s ON s.id = w.section WHERE w.student IN (?)`,
  'SELECT \'pin\', student, 0, NULL, NULL, NULL, item, program, line, NULL FROM use_pins WHERE student IN (?)',
  `SELECT 'released', student, 0, NULL, NULL, NULL, used_at, term, NULL, NULL FROM release_codes
   WHERE student IN (?) AND used_at IS NOT NULL`,
  'SELECT \'milestone\', student, 0, NULL, NULL, NULL, program, milestone, NULL, NULL FROM milestones WHERE student IN (?)',
]
const ALL = PARTS.join(' UNION ALL ')
const BY_CURRENT = ALL.replace('{plan}', 'p.is_current')
const BY_ID = ALL.replace('{plan}', 'p.id = ?')
const BEFORE_PLAN = PARTS.findIndex(part => part.includes('{plan}')) + 1

const TAKE = {
  student: (to: Dossier, row: Row) => Object.assign(to, { version: row.m, name: row.a, email: row.b.split('|')[0], advisor: row.i,
    residence: row.b.split('|')[1],
    programConfirmed: row.j === 1, targetLoad: row.n, cohorts: JSON.parse(row.c) as string[],
    placements: JSON.parse(row.d) as Record<string, number> }),
  program: (to: Dossier, row: Row) => to.programs[row.i] = row.a,
  record: (to: Dossier, row: Row) => {
    const [state, source, earnedGrade, gradedAt, ...topic] = row.d.split('|') as [CourseItem['state'], CourseItem['source'], ...string[]]
    to.record.push({ id: row.i, course: row.a, term: row.b, credits: row.j, grade: row.c, earnedGrade: earnedGrade || null,
      gradedAt: gradedAt ? toInstant(gradedAt) : null, topic: topic.join('|') || null, state, source })
  },
  registered: (to: Dossier, row: Row) => {
    const [at, run, session, grading, tuition, fees, ...topic] = row.d.split('|') as [string, string, string, GradingMode, ...string[]]
    to.registered.push({ id: row.n, section: row.i, course: row.a, label: row.c, term: row.b, session, credits: row.j, grading,
      tuition: Number(tuition), fees: Number(fees), topic: topic.join('|'), at: toInstant(at), run })
  },
  plan: (to: Dossier, row: Row) =>
    to.plans.push({ id: row.i, version: row.j, current: row.n === 1, name: row.a, details: JSON.parse(row.d) as PlanDetails }),
  entry: (to: Dossier, row: Row) => {
    const [pinnedUse, note] = JSON.parse(row.d) as [PlanEntry['pinnedUse'], string]
    to.entries.push({ plan: row.i, id: row.c, course: row.a, term: row.b, credits: row.j, pinned: row.n === 1, pinnedUse, note })
  },
  line: (to: Dossier, row: Row) => {
    const [sectionIds, backups, seen] = JSON.parse(row.d) as [string, string, string | null]
    to.lineUp.push({ id: row.i, position: row.j, course: row.a, term: row.b, credits: row.n, waitIfFull: row.m === 1,
      grading: row.c as GradingMode, sectionIds: JSON.parse(sectionIds) as number[], backups: JSON.parse(backups) as number[][],
      seen: seen === null ? null : JSON.parse(seen) as Meeting[] })
  },
  exception: (to: Dossier, row: Row) => {
    const [program, line, instead, reason, by, section, until] = JSON.parse(row.d) as [string | null, string | null, string | null, string,
      string, number | null, string | null]
    to.exceptions.push({ id: row.i, kind: row.c, course: row.a, term: row.b, value: row.j, program, line, instead, reason, by, section,
      until })
  },
  hold: (to: Dossier, row: Row) => to.holds.push({ reason: row.a, contact: row.b, placed: toInstant(row.c) }),
  signed: (to: Dossier, row: Row) => {
    const [note, copy] = JSON.parse(row.d) as [string, string | PlanEntry[]]
    to.signOffs.push({ term: row.b, by: row.a, at: toInstant(row.c), note,
      copy: typeof copy === 'string' ? JSON.parse(copy) as PlanEntry[] : copy })
  },
  asked: (to: Dossier, row: Row) => {
    const [answers, returned] = (JSON.parse(row.d) as (string | null)[]).map(text => text === null ? null : JSON.parse(text) as unknown)
    to.asked.push({ term: row.b, at: toInstant(row.a), note: row.c, answers: answers as SelfCheck | null,
      returned: returned as Returned | null })
  },
  accepted: (to: Dossier, row: Row) => to.accepted.push({ term: row.b, at: toInstant(row.a) }),
  waiting: (to: Dossier, row: Row) => {
    const [bundle, offer, exchange] = row.d.split('|') as [string, string, string]
    const ids = JSON.parse(bundle) as number[]
    to.waitlisted.push({ id: row.n, section: row.i, place: row.j, course: row.a, term: row.b, label: row.c,
      offerUntil: offer === '' ? null : toInstant(offer), bundle: ids.length > 0 ? ids : [row.i],
      exchange: exchange === '' ? null : JSON.parse(exchange) as string[] })
  },
  released: (to: Dossier, row: Row) => to.released.push({ term: row.b, at: toInstant(row.a) }),
  pin: (to: Dossier, row: Row) => to.usePins.push({ item: row.a, program: row.b, line: row.c }),
  milestone: (to: Dossier, row: Row) => to.milestones.push({ program: row.a, milestone: row.b }),
} satisfies Record<string, (to: Dossier, row: Row) => unknown>

/**
 * Everything that stands about these students, in one statement; who is no student is left out.
 * `plan` chooses the plan whose entries are read (of one student); the current one otherwise.
 */
export async function readDossiers(db: Executor, students: readonly number[], plan?: number): Promise<Map<number, Dossier>> {
  return students.length === 0 ? new Map() : dossiersFrom(await plain(db, ...dossierStatement(students, plan)))
}

/** The statement of `readDossiers`, for a round trip that asks more than that. */
export function dossierStatement(students: readonly number[], plan?: number): Statement {
  const ids = [...students]
  const values: unknown[] = PARTS.map(() => ids)
  if (plan !== undefined) values.splice(BEFORE_PLAN, 0, plan)
  return [plan === undefined ? BY_CURRENT : BY_ID, values]
}

/** Dossiers by student, from what the statement found. */
export function dossiersFrom(found: readonly unknown[]): Map<number, Dossier> {
  const rows = found as readonly Row[]
  const dossiers = new Map<number, Dossier>()
  for (const row of rows) {
    let dossier = dossiers.get(row.student)
    if (!dossier) {
      dossier = { id: row.student, version: 0, name: '', email: '', advisor: null, programConfirmed: false, residence: '', targetLoad: null,
        placements: {}, cohorts: [], programs: [], record: [], registered: [], plans: [], entries: [], lineUp: [], exceptions: [],
        holds: [],
        signOffs: [], asked: [], accepted: [], released: [], waitlisted: [], usePins: [], milestones: [] }
      dossiers.set(row.student, dossier)
    }
    TAKE[row.kind](dossier, row)
  }
  for (const dossier of dossiers.values()) inOrder(dossier)
  return dossiers
}

/** A union gives its rows in no order. */
function inOrder(dossier: Dossier) {
  const byCode = (a: string, b: string) => a < b ? -1 : a > b ? 1 : 0
  dossier.record.sort((a, b) => a.id - b.id)
  dossier.plans.sort((a, b) => a.id - b.id)
  dossier.entries.sort((a, b) => byCode(a.term, b.term) || byCode(a.course, b.course) || byCode(a.id, b.id))
  dossier.lineUp.sort((a, b) => a.position - b.position || a.id - b.id)
  dossier.exceptions.sort((a, b) => a.id - b.id)
  dossier.registered.sort((a, b) => a.id - b.id)
}
