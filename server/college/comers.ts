import type { Credits } from '@ridgeway/core/catalog'
import type { Comer } from '@ridgeway/core/office'
import { earnedCredits } from '@ridgeway/core/record'
import type { Executor } from '../db/database'
import { readCompleted, readHindrances } from '../db/store/office'
import type { College } from './college'

/** Milliseconds for which earned credits of all students are kept: grades and transfers move them a few times in a term. */
const KEPT_MS = 300_000
const kept = new WeakMap<College, { at: number, earned: Promise<Map<number, Credits>> }>()

/** Earned credits of all students, as they were at most a few minutes ago. */
function earnedOfAll(db: Executor, college: College): Promise<Map<number, Credits>> {
  const before = kept.get(college)
  if (before && Date.now() - before.at < KEPT_MS) return before.earned
  const earned = readCompleted(db).then(all => new Map([...all].map(([student, record]) =>
    [student, earnedCredits(record, college.catalog)] as const)))
  kept.set(college, { at: Date.now(), earned })
  earned.catch(() => kept.delete(college))
  return earned
}

/** All students as the openings of a term see them. */
export async function readComersOf(db: Executor, college: College, term: string): Promise<Comer[]> {
  const earned = await earnedOfAll(db, college)
  return (await readHindrances(db, term)).map(one => ({ ...one, earned: earned.get(one.id) ?? 0 }))
}
