import type { Notice } from '@ridgeway/core/advising'
import { shiftDate } from '@ridgeway/core/catalog'
import { fromInstant, toInstant } from '@ridgeway/core/weeks'
import { deputiesOf } from '../db/store/advisors'
import { addNotice } from '../db/store/notices'
import { advisorOf } from '../db/store/people'
import type { Doing } from './asked'

/** When the day's digest goes out, in minutes since local midnight (17:00). */
const DIGEST_MINUTE = 1020
/** Before any moment: mail that goes as soon as somebody looks. */
const AT_ONCE = '2000-01-01T00:00:00.000Z'

/** A notice without who did it: that is whoever acts. */
type About<N extends Notice = Notice> = N extends Notice ? Omit<N, 'by'> : never
/** Who does it; null for what the college does by itself. */
type Telling = Pick<Doing<unknown>, 'tx' | 'student' | 'at' | 'college'> & { visitor: { id: number, name: string } | null }

/** Tells people what was done in a student's file; whoever did it is not told. */
export async function tell({ tx, student, at, college, visitor }: Telling, people: readonly number[], about: About): Promise<void> {
  const notice = { ...about, by: visitor?.name ?? college.name } as Notice
  const { date, minutes } = fromInstant(at, college.zone)
  const digest = toInstant(minutes < DIGEST_MINUTE ? date : shiftDate(date, 1), DIGEST_MINUTE, college.zone)
  for (const person of new Set(people))
    if (person !== visitor?.id) await addNotice(tx, { person, student, at, notice, now: AT_ONCE, digest })
}

/** Those who advise the student today: the advisor and who stands in. */
export async function advisingOf({ tx, student, date }: Pick<Doing<unknown>, 'tx' | 'student' | 'date'>): Promise<number[]> {
  const advisor = await advisorOf(tx, student)
  return advisor ? [advisor, ...await deputiesOf(tx, advisor, date)] : []
}
