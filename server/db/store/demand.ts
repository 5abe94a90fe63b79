import type { TermCode } from '@ridgeway/core/catalog'
import type { Wish } from '@ridgeway/core/weeks'
import type { Executor } from '../database'
import { plain } from './plain'

/** A course of a student in a term: of the record, registered, or in the current plan. */
export interface EnrolmentRow {
  student: number
  course: string
  term: TermCode
  grade: string | null
  /** Why it stands there; an attempt that is going on has no grade. */
  kind: 'completed' | 'under way' | 'registered' | 'planned'
  earnsElsewhere: boolean
}

/**
 * Everything that students took, take, are registered in or plan, of those whose numbers lie between two, both included; what came from
 * elsewhere may have no term.
 */
export const readEnrolments = async (db: Executor, from: number, to: number): Promise<EnrolmentRow[]> =>
  (await plain<Omit<EnrolmentRow, 'earnsElsewhere'> & { elsewhere: number }>(db,
    `SELECT student, course, IFNULL(term, '') term, grade, state kind, source <> 'here' elsewhere FROM records
       WHERE student BETWEEN ? AND ?
     UNION ALL SELECT student, course, term, NULL, 'registered', 0 FROM registrations WHERE student BETWEEN ? AND ?
       GROUP BY student, course, term
     UNION ALL SELECT p.student, e.course, e.term, NULL, 'planned', 0 FROM plan_entries e JOIN plans p ON p.id = e.plan
       WHERE p.is_current AND p.deleted_at IS NULL AND p.student BETWEEN ? AND ?`, [from, to, from, to, from, to]))
    .map(({ elsewhere, ...row }) => ({ ...row, earnsElsewhere: Boolean(elsewhere) }))

interface LearnerRow { id: number, name: string, load: number | null, programs: string | null }
/** Students who study here, with their programs in order and the load they aim at. */
export const readLearners = async (db: Executor) => (await plain<LearnerRow>(db,
  `SELECT s.person id, e.name, s.target_load \`load\`, (SELECT GROUP_CONCAT(sp.program ORDER BY sp.position) FROM student_programs sp
       WHERE sp.student = s.person) programs
   FROM students s JOIN people e ON e.id = s.person AND e.erased_at IS NULL ORDER BY s.person`))
  .map(row => ({ ...row, programs: row.programs?.split(',') ?? [] }))

/** Who waits for a course of a term. */
export const readWaitingOf = (db: Executor, term: TermCode) => plain<{ student: number, course: string }>(db,
  `SELECT DISTINCT w.student, s.course FROM waitlist_entries w JOIN sections s ON s.id = w.section WHERE s.term = ?`, [term])

/** How many have picked each section and are not registered in its course. */
export async function readPicked(db: Executor, term: TermCode): Promise<Map<number, number>> {
  const rows = await plain<{ sections: string }>(db,
    `SELECT l.section_ids sections FROM line_up_rows l WHERE l.term = ? AND NOT EXISTS (SELECT 1 FROM registrations r
       WHERE r.student = l.student AND r.term = l.term AND r.course = l.course)`, [term])
  const picked = new Map<number, number>()
  for (const { sections } of rows) for (const id of JSON.parse(sections) as number[]) picked.set(id, (picked.get(id) ?? 0) + 1)
  return picked
}

/** Sections in which these students are, and the hours they keep free in a term. */
export async function readBusy(db: Executor, term: TermCode, students: readonly number[]) {
  if (students.length === 0) return { sections: [], wishes: [] }
  const sections = await plain<{ student: number, section: number }>(db,
    'SELECT student, section FROM registrations WHERE term = ? AND student IN (?)', [term, [...students]])
  const wishes = await plain<{ student: number, wishes: string }>(db,
    'SELECT student, wishes FROM week_wishes WHERE term = ? AND student IN (?)', [term, [...students]])
  return { sections, wishes: wishes.map(row => ({ student: row.student, wishes: JSON.parse(row.wishes) as Wish[] })) }
}
