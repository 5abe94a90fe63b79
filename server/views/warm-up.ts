import { setImmediate as turn } from 'node:timers/promises'
import type { Looking } from '../college/asked'
import { type College, dateIn, type KeptCollege, programsAt } from '../college/college'
import { fileOf, planIn } from '../college/student'
import { readStanding } from '@ridgeway/core/planning'
import type { Database } from '../db/database'
import { readStamp } from '../db/store/college'
import { readDossiers } from '../db/store/dossiers'
import { firstStudents } from '../db/store/people'
import { readFind } from './find'
import { readStudentView } from './student'

/** Students whose pages are read, how many of them look for something, and milliseconds after which no further one is begun. */
const STUDENTS = 30
const SEARCHES = 12
const MOST_MS = 3000
/** Words that are looked for, in turn. */
const WORDS = 4

/**
 * What the first people of a new server would wait for: the college and the sections of its terms are read, their words are put in order,
 * and a few files are read and searched for as their pages do, so that the engine knows that code. Nothing is kept of those files.
 */
export async function warmUp(database: Pick<Database, 'read'>, kept: KeptCollege): Promise<void> {
  const began = performance.now()
  const college = await database.read(async db => kept.at(db, (await readStamp(db)).catalog))
  const at = new Date().toISOString()
  const date = dateIn(at, college.zone)
  for (const { code: term } of college.catalog.terms.filter(one => one.scheduled && one.end >= date)) {
    const sections = await database.read(db => college.sections.known(db, term))
    const words = wordsOf(college, new Set(sections.map(one => one.course)))
    for (const [i, student] of (await database.read(db => firstStudents(db, STUDENTS))).entries()) {
      if (performance.now() - began > MOST_MS) return
      await database.read(async (db) => {
        const looking: Looking<{ term: string }> = { db, student, plan: 0, visitor: null, college, at, date, input: { term },
          shared: new Map() }
        await readStudentView(looking)
        const dossier = (await readDossiers(db, [student])).get(student)!
        readStanding(fileOf(dossier, college, term, planIn(dossier).plan, date), { ...college.catalog,
          programs: programsAt(college, dossier.programs) }, date)
        if (i < SEARCHES && words.length > 0)
          await readFind({ ...looking, input: { term, search: { text: words[i % words.length]! }, most: 40 } })
      })
      await turn()
    }
  }
}

/** Beginnings of the words that most titles have: what brings many sections. */
function wordsOf({ catalog }: College, offered: ReadonlySet<string>): string[] {
  const times = new Map<string, number>()
  for (const { code, title } of catalog.courses.values()) {
    if (!offered.has(code)) continue
    for (const word of title.toLowerCase().split(/\W+/)) {
      const start = word.slice(0, 3)
      if (start.length === 3) times.set(start, (times.get(start) ?? 0) + 1)
    }
  }
  return [...times].sort((a, b) => b[1] - a[1]).slice(0, WORDS).map(([start]) => start)
}
