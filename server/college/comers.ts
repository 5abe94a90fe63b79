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
  for await (const [from, to] of rangesOf(stale)) {
    const records = await readCompleted(db, from, to)
    for (const student of stale.filter(one => one >= from && one <= to))
      known.set(student, { version: versions.get(student)!, credits: earnedCredits(records.get(student) ?? [], college.catalog) })
  }
}

const hindrances = new KeptAWhile<Awaited<ReturnType<typeof readHindrances>>>()

/** All students as the openings of a term see them, as they were a moment ago. */
export async function readComersOf(db: Executor, college: College, term: string): Promise<Comer[]> {
  const known = await earnedOfAll(db, college)
  const students = await hindrances.get(`${college.stamp} ${term}`, () => readHindrances(db, term))
  return students.map(one => ({ ...one, earned: known.get(one.id)?.credits ?? 0 }))
}
