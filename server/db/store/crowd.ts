import type { Executor } from '../database'
import { change, fromInstantText, plain, toInstant, together } from './plain'

/** Generated students of the demonstration who are registered for nothing in a term. */
export const crowdAmong = async (tx: Executor, term: string) => (await plain<{ person: number }>(tx,
  `SELECT s.person FROM students s JOIN people p ON p.id = s.person WHERE p.password_hash IS NULL AND p.story = ''
   AND NOT EXISTS (SELECT 1 FROM registrations r WHERE r.student = s.person AND r.term = ?) ORDER BY s.person`,
  [term])).map(row => row.person)

interface CrowdLine {
  student: number
  key: string
  at: string
  rows: readonly { course: string, sectionIds: number[], backups: number[][] }[]
}

/** Line-ups and presses of a crowd, in place of those before. */
export async function keepCrowd(tx: Executor, term: string, lines: readonly CrowdLine[]): Promise<void> {
  const students = lines.map(line => line.student)
  await together(tx, [
    ['DELETE FROM crowd_presses WHERE term = ?', [term]],
    ['DELETE FROM line_up_rows WHERE term = ? AND student IN (?)', [term, students]],
    ['INSERT INTO line_up_rows (student, term, course, position, section_ids, backups, wait_if_full, grading) VALUES ?',
      [lines.flatMap(line => line.rows.map((row, i) => [line.student, term, row.course, i, JSON.stringify(row.sectionIds),
        JSON.stringify(row.backups), true, 'letter']))]],
    ['INSERT INTO crowd_presses (student, term, press_at, state, press_key) VALUES ?',
      [lines.map(line => [line.student, term, fromInstantText(line.at), 'waiting', line.key])]],
    ['UPDATE students SET version = version + 1 WHERE person IN (?)', [students]],
  ])
}

/** Nobody presses who has not yet. */
export const dropPresses = (tx: Executor, term: string) => change(tx,
  'DELETE FROM crowd_presses WHERE term = ? AND state = \'waiting\'', [term])

export async function nextPress(db: Executor): Promise<string | null> {
  const [row] = await plain<{ at: string }>(db, 'SELECT press_at at FROM crowd_presses WHERE state = \'waiting\' ORDER BY press_at LIMIT 1')
  return row ? toInstant(row.at) : null
}

/** Presses whose moment has come and that no other server does, with the rows that they are about. */
export async function claimPresses(tx: Executor, now: string, most: number) {
  const presses = await plain<{ id: number, student: number, term: string, key: string }>(tx,
    `SELECT id, student, term, press_key \`key\` FROM crowd_presses WHERE state = 'waiting' AND press_at <= ? ORDER BY press_at, id
     LIMIT ? FOR UPDATE SKIP LOCKED`, [fromInstantText(now), most])
  if (presses.length === 0) return []
  await plain(tx, 'UPDATE crowd_presses SET state = \'pressing\' WHERE id IN (?)', [presses.map(press => press.id)])
  const rows = await plain<{ id: number, student: number, term: string }>(tx,
    'SELECT id, student, term FROM line_up_rows WHERE student IN (?) ORDER BY position', [presses.map(press => press.student)])
  return presses.map(press => ({ ...press,
    rowIds: rows.filter(row => row.student === press.student && row.term === press.term).map(row => row.id) }))
}

export const markPressed = (tx: Executor, id: number, registered: number) => plain(tx,
  'UPDATE crowd_presses SET state = \'done\', registered = ? WHERE id = ?', [registered, id])

export async function readCrowdState(db: Executor, term: string) {
  const [row] = await plain<{ waiting: number | null, done: number | null, registered: number | null, first: string | null }>(db,
    `SELECT SUM(state = 'waiting') waiting, SUM(state = 'done') done, SUM(registered) registered, MIN(press_at) first
     FROM crowd_presses WHERE term = ?`, [term])
  return { waiting: Number(row?.waiting ?? 0), done: Number(row?.done ?? 0), registered: Number(row?.registered ?? 0),
    from: row?.first ? toInstant(row.first) : null }
}

interface Open {
  student: number
  term: string
  open: number
  last: number
}

/** What generated students have open on their accounts; a few never pay. */
export const openOfGenerated = (db: Executor, terms: readonly string[]) => plain<Open>(db,
  `SELECT m.student, m.term, MAX(m.id) last,
     CAST(SUM(IF(m.kind IN ('charge', 'payback'), m.cents, -CAST(m.cents AS SIGNED))) AS SIGNED) open
   FROM money_entries m JOIN people p ON p.id = m.student WHERE m.term IN (?) AND p.password_hash IS NULL AND p.story = ''
     AND MOD(m.student * 7919, 25) <> 0
   GROUP BY m.student, m.term HAVING open > 0`, [[...terms]])
