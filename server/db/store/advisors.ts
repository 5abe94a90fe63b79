import type { OfficeHours } from '@ridgeway/core/advising'
import type { Executor } from '../database'
import { change, fromInstantText, plain, toInstant } from './plain'

/** Who stands in for an advisor on a date. */
export async function deputiesOf(db: Executor, advisor: number, date: string): Promise<number[]> {
  const rows = await plain<{ deputy: number }>(db,
    'SELECT deputy FROM deputies WHERE advisor = ? AND from_date <= ? AND until_date >= ?', [advisor, date, date])
  return rows.map(row => row.deputy)
}
/** Advisors for whom somebody stands in on a date. */
export const standsInFor = (db: Executor, deputy: number, date: string) => plain<{ id: number, name: string, from: string, until: string }>(
  db, `SELECT p.id, p.name, d.from_date \`from\`, d.until_date until FROM deputies d JOIN people p ON p.id = d.advisor
       WHERE d.deputy = ? AND d.until_date >= ? ORDER BY d.from_date, d.id`, [deputy, date])
/** Deputies of an advisor whose time is not over. */
export const deputiesNamed = (db: Executor, advisor: number, date: string) =>
  plain<{ id: number, name: string, from: string, until: string }>(db,
    `SELECT d.id, p.name, d.from_date \`from\`, d.until_date until FROM deputies d JOIN people p ON p.id = d.deputy
     WHERE d.advisor = ? AND d.until_date >= ? ORDER BY d.from_date, d.id`, [advisor, date])
export const addDeputy = (tx: Executor, advisor: number, deputy: number, from: string, until: string) => plain(tx,
  'INSERT INTO deputies (advisor, deputy, from_date, until_date) VALUES (?, ?, ?, ?)', [advisor, deputy, from, until])
export const removeDeputy = (tx: Executor, advisor: number, id: number) =>
  change(tx, 'DELETE FROM deputies WHERE id = ? AND advisor = ?', [id, advisor])

export const allAdvisors = (db: Executor) =>
  plain<{ id: number, name: string }>(db, 'SELECT id, name FROM people WHERE role = \'advisor\' ORDER BY name, id')
export const findAdvisor = async (db: Executor, id: number) =>
  (await plain<{ id: number, name: string }>(db, 'SELECT id, name FROM people WHERE id = ? AND role = \'advisor\'', [id]))[0]
/** Students whose name holds a text, with how many exceptions they ask for. */
export const studentsNamed = (db: Executor, text: string, most: number) =>
  plain<{ id: number, name: string, advisor: string | null, asked: number }>(db,
    `SELECT p.id, p.name, a.name advisor,
       (SELECT COUNT(*) FROM exception_requests e WHERE e.student = p.id AND e.state = 'asked') asked
     FROM people p JOIN students s ON s.person = p.id LEFT JOIN people a ON a.id = s.advisor
     WHERE p.erased_at IS NULL AND LOWER(p.name) LIKE CONCAT('%', LOWER(?), '%') ORDER BY p.name,
       p.id LIMIT ?`, [text.replaceAll(/[\\%_]/g, '\\$&'), most])

/** Gives a student another advisor, and keeps who it was. */
export async function replaceAdvisor(tx: Executor, one: { student: number, advisor: number, at: string, by: number, reason: string }) {
  await plain(tx, `INSERT INTO advisors_before (student, advisor, until_at, changed_by, reason)
    SELECT person, advisor, ?, ?, ? FROM students WHERE person = ?`, [fromInstantText(one.at), one.by, one.reason, one.student])
  await plain(tx, 'UPDATE students SET advisor = ? WHERE person = ?', [one.advisor, one.student])
}
/** Who advised a student before, newest first. */
export async function advisorsBefore(db: Executor, student: number) {
  const rows = await plain<{ advisor: string | null, until: string, by: string, reason: string }>(db,
    `SELECT a.name advisor, b.until_at until, c.name \`by\`, b.reason FROM advisors_before b LEFT JOIN people a ON a.id = b.advisor
     JOIN people c ON c.id = b.changed_by WHERE b.student = ? ORDER BY b.id DESC`, [student])
  return rows.map(row => ({ ...row, advisor: row.advisor ?? 'nobody', until: toInstant(row.until) }))
}

/** Notes down who has a file open. */
export async function keepPresence(tx: Executor, present: readonly { student: number, person: number }[], now: string) {
  if (present.length === 0) return
  const seen = fromInstantText(now)
  const rows = [...new Map(present.map(one => [`${one.student} ${one.person}`, [one.student, one.person, seen]])).values()]
  await plain(tx, 'INSERT INTO presence (student, person, seen_at) VALUES ? ON DUPLICATE KEY UPDATE seen_at = VALUES(seen_at)', [rows])
}
export const endPresence = (tx: Executor, student: number, person: number) =>
  plain(tx, 'DELETE FROM presence WHERE student = ? AND person = ?', [student, person])

/** An advisor's office hours, in the order of the week. */
export const hoursOf = (db: Executor, advisor: number) => plain<OfficeHours>(db,
  `SELECT week_day day, start_minute start, end_minute end, slot_minutes length, place FROM office_hours WHERE advisor = ?
   ORDER BY FIELD(week_day, 'M', 'T', 'W', 'R', 'F', 'S', 'U'), start_minute, id`, [advisor])
export async function keepHours(tx: Executor, advisor: number, hours: readonly OfficeHours[]) {
  await plain(tx, 'DELETE FROM office_hours WHERE advisor = ?', [advisor])
  if (hours.length > 0)
    await plain(tx, 'INSERT INTO office_hours (advisor, week_day, start_minute, end_minute, slot_minutes, place) VALUES ?',
      [hours.map(one => [advisor, one.day, one.start, one.end, one.length, one.place])])
}

interface MeetingRow extends Record<'id' | 'minutes' | 'sequence' | 'student' | 'advisor', number>,
  Record<'start' | 'place' | 'about' | 'name' | 'advisorName', string> {}
/** Meetings that are booked and not over, of a student or of an advisor. */
export async function meetingsAhead(db: Executor, whose: 'student' | 'advisor', person: number, now: string): Promise<MeetingRow[]> {
  const rows = await plain<MeetingRow>(db,
    `SELECT m.id, m.start_at start, m.minutes, m.place, m.about, m.sequence, m.student, p.name, m.advisor, a.name advisorName
     FROM advising_meetings m JOIN people p ON p.id = m.student JOIN people a ON a.id = m.advisor
     WHERE m.${whose} = ? AND m.state = 'booked' AND DATE_ADD(m.start_at, INTERVAL m.minutes MINUTE) > ? ORDER BY m.start_at, m.id`,
    [person, fromInstantText(now)])
  return rows.map(row => ({ ...row, start: toInstant(row.start) }))
}
/** Meetings of an advisor that are booked and not over, wherever in the college's hours they lie. */
export async function slotsTaken(db: Executor, advisor: number, now: string): Promise<{ start: string, minutes: number }[]> {
  const rows = await plain<{ start: string, minutes: number }>(db, `SELECT start_at start, minutes FROM advising_meetings
    WHERE advisor = ? AND state = 'booked' AND DATE_ADD(start_at, INTERVAL minutes MINUTE) > ?`, [advisor, fromInstantText(now)])
  return rows.map(row => ({ ...row, start: toInstant(row.start) }))
}
/** Bookings with one advisor follow each other: two that overlap without beginning together are seen. */
export const lockAdvisor = (tx: Executor, advisor: number) => plain(tx, 'SELECT id FROM people WHERE id = ? FOR UPDATE', [advisor])
interface NewMeeting { advisor: number, student: number, start: string, minutes: number, place: string, about: string }
/** False where somebody was quicker: the slot is unique while it is booked. */
export async function addMeeting(tx: Executor, one: NewMeeting): Promise<boolean> {
  return await change(tx, `INSERT IGNORE INTO advising_meetings (advisor, student, start_at, minutes, place, about, state)
    VALUES (?, ?, ?, ?, ?, ?, 'booked')`, [one.advisor, one.student, fromInstantText(one.start), one.minutes, one.place, one.about]) > 0
}
export const moveMeeting = async (tx: Executor, id: number, to: { start: string, minutes: number, place: string, about: string }) =>
  await change(tx, `UPDATE IGNORE advising_meetings SET start_at = ?, minutes = ?, place = ?, about = ?, sequence = sequence + 1
    WHERE id = ?`, [fromInstantText(to.start), to.minutes, to.place, to.about, id])
export const cancelMeetingOf = (tx: Executor, student: number, id: number) => change(tx,
  'UPDATE advising_meetings SET state = \'cancelled\', sequence = sequence + 1 WHERE id = ? AND student = ? AND state = \'booked\'',
  [id, student])
const FORTNIGHT_MS = 14 * 86_400_000
/** The latest meeting of a student that has begun within a fortnight. */
export async function lastMeeting(db: Executor, student: number, now: string): Promise<{ id: number, start: string } | null> {
  const [row] = await plain<{ id: number, start: string }>(db, `SELECT id, start_at start FROM advising_meetings
    WHERE student = ? AND state = 'booked' AND start_at BETWEEN ? AND ? ORDER BY start_at DESC LIMIT 1`,
  [student, fromInstantText(new Date(Date.parse(now) - FORTNIGHT_MS).toISOString()), fromInstantText(now)])
  return row ? { id: row.id, start: toInstant(row.start) } : null
}
