import { parentPort, workerData } from 'node:worker_threads'
import type { StudentProgress } from '@ridgeway/core/office'
import { readOutlook } from '@ridgeway/core/planning'
import { type College, KeptCollege, programsAt } from '../college/college'
import { fileOf, planIn } from '../college/student'
import { Database } from '../db/database'
import { type Dossier, readDossiers } from '../db/store/dossiers'
import type { ProgressTask } from './everybody'

/**
 * A thread that works out whole files: it reads the college once, then whatever students it is given, and asks for more. A file is read as
 * any page reads it.
 */
const { url, stamp, date } = workerData as ProgressTask
const database = new Database(url, 2, { connection: 20_000, read: 60_000, write: 1000 })
const college = await database.read(db => new KeptCollege().at(db, stamp))
const read = (students: readonly number[]) => database.read(db => readDossiers(db, students))

parentPort!.on('message', (students: readonly number[] | null) => {
  // An error ends the thread, and whoever started it hears of it.
  if (students === null) void database.close()
  else void work(students).catch((problem: unknown) => setImmediate(() => {
    throw problem
  }))
})
parentPort!.postMessage([])

async function work(students: readonly number[]) {
  const rows = [...(await read(students)).values()].map(dossier => progressOf(dossier, college, date))
  parentPort!.postMessage(rows)
}

function progressOf(dossier: Dossier, { catalog: all, ...rest }: College, today: string): StudentProgress {
  const programs = programsAt({ catalog: all, ...rest }, dossier.programs)
  const catalog = { ...all, programs }
  const term = all.terms.at(-1)?.code ?? ''
  const file = fileOf(dossier, { catalog: all, ...rest }, term, planIn(dossier).plan, today)
  return { id: dossier.id, name: dossier.name, program: dossier.programs[0] ?? '', ...readOutlook(file, catalog, today) }
}
