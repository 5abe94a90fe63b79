import type { Executor } from '../database'
import { fromInstantText, plain, type Statement, together } from './plain'

/** Students who have a course of these terms without its grade. */
export async function gradesOpenFor(db: Executor, terms: readonly string[], most: number): Promise<number[]> {
  if (terms.length === 0) return []
  const rows = await plain<{ student: number }>(db, `SELECT student FROM registrations WHERE term IN (?) AND NOT graded
    UNION SELECT student FROM records WHERE term IN (?) AND state = 'under way' ORDER BY student LIMIT ?`, [[...terms], [...terms], most])
  return rows.map(row => row.student)
}

/** A course that waits for its grade: on the record already (`record`), or registered. */
export interface Ungraded { record: number | null, course: string, term: string, credits: number, grading: string, topic: string | null }

export const ungraded = (tx: Executor, student: number, terms: readonly string[]) => plain<Ungraded>(tx,
  `SELECT id record, course, term, credits, 'letter' grading, topic FROM records WHERE student = ? AND term IN (?) AND state = 'under way'
   UNION ALL SELECT NULL, r.course, r.term, SUM(r.credits), MIN(r.grading), NULLIF(MAX(s.topic), '') FROM registrations r
     JOIN sections s ON s.id = r.section WHERE r.student = ? AND r.term IN (?) AND NOT r.graded GROUP BY r.course,
       r.term`, [student, [...terms], student, [...terms]])

/** Puts grades on the record; what was audited leaves nothing there. */
export async function keepGrades(tx: Executor, student: number, rows: readonly (Ungraded & { grade: string | null })[], at: string) {
  const fresh = rows.filter(row => row.record === null && row.grade !== null)
  const terms = [...new Set(rows.filter(row => row.record === null).map(row => row.term))]
  await together(tx, [
    ...rows.filter(row => row.record !== null).map((row): Statement =>
      ['UPDATE records SET grade = ?, state = \'completed\', graded_at = ? WHERE id = ?', [row.grade, fromInstantText(at), row.record]]),
    ...fresh.length > 0
      ? [['INSERT INTO records (student, course, term, credits, grade, topic, state, source, graded_at) VALUES ?',
          [fresh.map(row => [student, row.course, row.term, row.credits, row.grade, row.topic, 'completed', 'here',
            fromInstantText(at)])]] as Statement]
      : [],
    ...terms.length > 0
      ? [['UPDATE registrations SET graded = TRUE WHERE student = ? AND term IN (?)', [student, terms]] as Statement]
      : [],
    ['UPDATE students SET version = version + 1 WHERE person = ?', [student]],
    ['INSERT INTO ledger (happened_at, actor, student, action, section, pool, detail) VALUES (?, NULL, ?, \'grade\', NULL, NULL, ?)',
      [fromInstantText(at), student, JSON.stringify(Object.fromEntries(rows.map(row => [`${row.term} ${row.course}`, row.grade])))]],
  ])
}
