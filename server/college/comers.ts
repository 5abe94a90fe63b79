import { createHash } from 'node:crypto'
import type { Credits } from '@ridgeway/core/catalog'
import type { Comer } from '@ridgeway/core/office'
import { earnedCredits } from '@ridgeway/core/record'
import type { Executor } from '../db/database'
import { readCompleted, readHindrances } from '../db/store/office'
import { fileVersions, rangesOf } from '../db/store/people'
import type { College } from './college'
import { KeptAWhile } from './kept-a-while'

/** Earned credits by student, each with the version of the file that it is of. */
interface Earned { known: Map<number, { version: number, credits: Credits }>, reading: Promise<void> | null }
/**
 * By what the college says about credit. A change of anything else, such as an opening or a program, leaves it as it is: to read all
 * records of a large college takes several seconds. Two are kept, for requests that began before such a change.
 */
const earned = new Map<string, Earned>()
const MOST_KEPT = 2
const rules = new WeakMap<College, string>()

function earnedIn(college: College): Earned {
  const { courses, scale, repeatPolicy } = college.catalog
  const name = rules.get(college)
    ?? createHash('sha256').update(JSON.stringify([[...courses.values()], scale, repeatPolicy])).digest('hex')
  rules.set(college, name)
  const mine = earned.get(name) ?? { known: new Map(), reading: null }
  earned.set(name, mine)
  if (earned.size > MOST_KEPT) earned.delete([...earned.keys()].find(other => other !== name)!)
  return mine
}

/** Earned credits of all students: only files that have changed are read again. */
async function earnedOfAll(db: Executor, college: College): Promise<Earned['known']> {
  const mine = earnedIn(college)
  // Of several who ask one reads; the others find what changed since, which is little.
  await mine.reading?.catch(() => {})
  const reading = mine.reading = readChanged(db, college, mine.known)
  await reading
  return mine.known
}

async function readChanged(db: Executor, college: College, known: Earned['known']) {
  const versions = await fileVersions(db)
  for (const student of known.keys()) if (!versions.has(student)) known.delete(student)
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
  // Every field by its name: there are as many as students, and each answer of the office goes through all of them.
  return (await readHindrances(db, term)).map(({ id, programs, unsigned, held, unconfirmed }) =>
    ({ id, programs, earned: known.get(id)?.credits ?? 0, unsigned, held, unconfirmed }))
}
