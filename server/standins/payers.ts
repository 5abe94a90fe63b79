import { shiftDate } from '@ridgeway/core/catalog'
import { dateIn, type KeptCollege, presentInstant } from '../college/college'
import type { Database } from '../db/database'
import { readStamp } from '../db/store/college'
import { openOfGenerated } from '../db/store/crowd'
import { postings } from '../db/store/money'
import { together } from '../db/store/plain'

/** Days before the due date on which those who fill the college pay. */
const BEFORE_DAYS = 5

/** The stand-in for those who pay: generated students pay a term a few days before it is due, all but one of twenty-five. */
export async function payForCrowd(database: Database, kept: KeptCollege): Promise<void> {
  const { at, date, due } = await database.read(async (db) => {
    const stamp = await readStamp(db)
    const college = await kept.at(db, stamp.catalog)
    const now = presentInstant(stamp)
    const today = dateIn(now, college.zone)
    return { at: now, date: today, due: college.catalog.terms.filter(term => term.scheduled && term.end >= today
      && shiftDate(term.feesDue, -BEFORE_DAYS) <= today).map(term => term.code) }
  })
  if (due.length === 0) return
  await database.write(async (tx) => {
    const open = await openOfGenerated(tx, due)
    await together(tx, postings(...open.map(one => ({ student: one.student, term: one.term, at, date, actor: one.student,
      kind: 'payment' as const, courses: [], cents: Number(one.open), reference: `paid ${one.student} ${one.last}` }))))
  })
}
