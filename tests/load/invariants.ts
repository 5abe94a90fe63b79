import { sql } from 'drizzle-orm'
import type { Database } from '../../server/db/connect'

type Rows = Record<string, unknown>[]

/**
 * What must hold of a college between two changes, from the tables alone; each question names what breaks it, and finds nothing.
 * `money` is asked only where nothing was given up after its refunds ended.
 */
export async function broken(db: Database, { money = true } = {}): Promise<Record<string, Rows>> {
  const questions: Record<string, ReturnType<typeof sql>> = {
    'seats beyond capacity': sql`SELECT id, capacity, taken, held FROM seat_pools WHERE taken < 0 OR held < 0 OR taken + held > capacity`,
    'seats taken that nobody has': sql`SELECT p.id, p.taken, COUNT(r.id) n FROM seat_pools p LEFT JOIN registrations r ON r.pool = p.id
      GROUP BY p.id, p.taken HAVING p.taken <> n`,
    'seats held for nobody': sql`SELECT p.id, p.held, (SELECT COUNT(*) FROM waitlist_entries w WHERE w.offer_pool = p.id
      AND w.offer_until IS NOT NULL) + (SELECT COUNT(*) FROM freed_seats f WHERE f.pool = p.id) n FROM seat_pools p HAVING p.held <> n`,
    'a bundle that is not whole': sql`SELECT r.student, r.course, COUNT(*) n, JSON_LENGTH(MIN(c.parts)) parts,
        COUNT(DISTINCT s.link) links
      FROM registrations r JOIN sections s ON s.id = r.section JOIN courses c ON c.code = r.course
      GROUP BY r.student, r.term, r.course HAVING n <> parts OR links <> 1`,
    'a pool of another section': sql`SELECT r.id FROM registrations r JOIN sections s ON s.id = r.section JOIN seat_pools p ON p.id = r.pool
      WHERE p.section <> IFNULL(s.seats_with, s.id)`,
    'one who waits for what they have': sql`SELECT w.student, w.section FROM waitlist_entries w
      JOIN registrations r ON r.student = w.student AND r.section = w.section`,
    'a ledger that does not replay to the seats': sql`SELECT p.id, p.taken, (SELECT COALESCE(SUM(CASE l.action WHEN 'register' THEN 1
      WHEN 'drop' THEN -1 WHEN 'withdraw' THEN -1 WHEN 'void' THEN -1 WHEN 'section cancelled' THEN -1 ELSE 0 END),
        0) FROM ledger l WHERE l.pool = p.id) n
      FROM seat_pools p HAVING p.taken <> n`,
  }
  if (money)
    questions['charges that are not what is registered'] = sql`SELECT m.student, m.term, m.charged, COALESCE(r.price, 0) price FROM
      (SELECT student, term, SUM(CASE kind WHEN 'charge' THEN cents WHEN 'refund' THEN -CAST(cents AS SIGNED)
        WHEN 'void' THEN -CAST(cents AS SIGNED) ELSE 0 END) charged FROM money_entries GROUP BY student, term) m
      LEFT JOIN (SELECT student, term, SUM(tuition + fees) price FROM registrations GROUP BY student, term) r
        ON r.student = m.student AND r.term = m.term WHERE m.charged <> COALESCE(r.price, 0)`
  const found: Record<string, Rows> = {}
  for (const [what, question] of Object.entries(questions)) {
    const [rows] = await db.execute(question) as unknown as [Rows]
    if (rows.length > 0) found[what] = rows.slice(0, 5)
  }
  return found
}
