import type { Credits } from '@ridgeway/core/catalog'
import type { Comer } from '@ridgeway/core/office'
import { earnedCredits } from '@ridgeway/core/record'
import type { Executor } from '../db/database'
import { readCompleted, readHindrances } from '../db/store/office'
import { fileVersions, rangesOf } from '../db/store/people'
import type { College } from './college'
import { KeptAWhile } from './kept-a-while'

/** Earned credits by student, each with the version of the file that it is of; as long as the catalog stays. */
const earned = new WeakMap<College, Map<number, { version: number, credits: Credits }>>()
const reading = new WeakMap<College, Promise<void>>()

/** Earned credits of all students: only files that have changed are read again. */
async function earnedOfAll(db: Executor, college: College): Promise<Map<number, { version: number, credits: Credits }>> {
  const known = earned.get(college) ?? new Map<number, { version: number, credits: Credits }>()
  earned.set(college, known)
  // Of several who ask one reads; the others find what changed since, which is little.
  await reading.get(college)?.catch(() => {})
  const mine = readChanged(db, college, known)
  reading.set(college, mine)
  await mine
  return known
}

async function readChanged(db: Executor, college: College, known: Map<number, { version: number, credits: Credits }>) {
  const versions = await fileVersions(db)
  const stale = [...versions].filter(([student, version]) => known.get(student)?.version !== version).map(([student]) => student)
  let next = 0
  for await (const [from, to] of rangesOf(stale)) {
    const records = await readCompleted(db, from, to)
    for (; next < stale.length && stale[next]! <= to; next++) {
      const student = stale[next]!
      known.set(student, { version: versions.get(student)!, credits: earnedCredits(records.get(student) ?? [], college.catalog) })
    }
  }
}

const lately = new KeptAWhile<Comer[]>()

/** All students as the openings of a term see them, as they were a moment ago. */
export const comersLately = (db: Executor, college: College, term: string): Promise<Comer[]> =>
  lately.get(`${college.stamp} ${term}`, () => readComersOf(db, college, term))

/** The same as they are now. */
export async function readComersOf(db: Executor, college: College, term: string): Promise<Comer[]> {
  const known = await earnedOfAll(db, college)
  return (await readHindrances(db, term)).map(one => ({ ...one, earned: known.get(one.id)?.credits ?? 0 }))
}
