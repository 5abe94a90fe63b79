import { eq, sql } from 'drizzle-orm'
import type { AdvisingPolicy } from '@ridgeway/core/advising'
import type { Executor } from '../database'
import { clockSetting, collegeStamp, institution, terms } from '../schema'
import { change, plain, toInstant } from './plain'

/** What changes for all servers at once: the catalog's stamp, and in a demonstration the clock's setting. */
export interface CollegeStamp { catalog: number, demoNow: string | null, setAt: string | null }

export const readStamp = async (db: Executor): Promise<CollegeStamp> => stampOf((await plain<StampRow>(db, STAMP))[0])

export interface StampRow { catalog: number | null, demo_now: string | null, set_at: string | null }
export const STAMP = 'SELECT (SELECT version FROM college_stamp WHERE id = 1) catalog, demo_now, set_at FROM (SELECT 1) one '
  + 'LEFT JOIN clock_setting ON clock_setting.id = 1'
export const stampOf = (row: StampRow | undefined): CollegeStamp => ({ catalog: row?.catalog ?? 0,
  demoNow: row?.demo_now ? toInstant(row.demo_now) : null, setAt: row?.set_at ? toInstant(row.set_at) : null })

/** The rows behind the college: everything that is read by all and changed by few. */
export async function readCollegeRows(db: Executor) {
  return {
    institution: await db.query.institution.findFirst(),
    sites: await db.query.sites.findMany(),
    travel: await db.query.siteTravel.findMany(),
    terms: await db.query.terms.findMany(),
    sessions: await db.query.termSessions.findMany(),
    openings: await db.query.openings.findMany(),
    courses: await db.query.courses.findMany(),
    programs: await db.query.programs.findMany(),
  }
}

/** Closes registration of a term with a reason, or opens it; every server hears of it through the stamp. */
export async function keepClosing(tx: Executor, term: string, because: string | null) {
  await tx.update(collegeStamp).set({ version: sql`${collegeStamp.version} + 1` })
  await tx.update(terms).set({ closedBecause: because }).where(eq(terms.code, term))
}

/** Demonstration only: sets the clock; it runs on from there. */
export const keepClock = (tx: Executor, demoNow: string) => tx.update(clockSetting).set({ demoNow, setAt: new Date().toISOString() })

/** How sign-off and exceptions are handled from now on; every server reads it anew. */
export async function keepAdvising(tx: Executor, advising: AdvisingPolicy) {
  await tx.update(institution).set({ advising })
  await tx.update(collegeStamp).set({ version: sql`${collegeStamp.version} + 1` })
}

/** Until this transaction ends nobody else changes the college as a whole: what is read after it stands. */
export const lockCollege = (tx: Executor) => plain(tx, 'SELECT version FROM college_stamp WHERE id = 1 FOR UPDATE')

/** Takes a session out of a term's calendar; nothing may be in it. */
export const removeSession = (tx: Executor, term: string, code: string) =>
  change(tx, 'DELETE FROM term_sessions WHERE term = ? AND code = ?', [term, code])

/** Whether there is a college; asked by whoever would put one in, one after the other. */
export async function hasCollege(tx: Executor): Promise<boolean> {
  await lockCollege(tx)
  return (await plain(tx, 'SELECT id FROM institution LIMIT 1')).length > 0
}

/** Puts the institution itself into an empty installation. */
export async function addCollege(tx: Executor, values: Omit<typeof institution.$inferInsert, 'id'>) {
  await tx.insert(institution).values({ id: 1, ...values })
  await tx.update(collegeStamp).set({ version: sql`${collegeStamp.version} + 1` })
}

type Settings = Pick<typeof institution.$inferInsert,
  'name' | 'zone' | 'gradeScale' | 'repeatPolicy' | 'money' | 'termsText' | 'offerHours'>
/** Sets the institution itself, where the college is still as it was seen; says whether it was. Every server reads it anew. */
export async function keepSettings(tx: Executor, settings: Settings, seen: number): Promise<boolean> {
  if (await change(tx, 'UPDATE college_stamp SET version = version + 1 WHERE version = ?', [seen]) === 0) return false
  await tx.update(institution).set(settings)
  return true
}

/** What people's own rows name of the settings: it cannot be taken away. */
export async function namedOfSettings(db: Executor) {
  const list = async (text: string) => (await plain<{ one: string }>(db, text)).map(row => row.one)
  return { grades: await list('SELECT DISTINCT grade one FROM records WHERE grade IS NOT NULL'),
    bands: await list('SELECT DISTINCT residence one FROM students'), plans: await list('SELECT DISTINCT plan one FROM payment_choices') }
}
