import { parentPort, workerData } from 'node:worker_threads'
import { batchesOn } from '../acts/batches'
import { lanesConnections } from '../acts/lanes'
import { dateIn, KeptCollege } from '../college/college'
import { Database } from '../db/database'
import { readStamp } from '../db/store/college'
import { type BatchAsked, type BatchTold, type RegisteringTask, saidOf } from './registering-words'

/**
 * The thread that registers: what the lanes take out of the line goes through its own connections, and waits for nothing of what else the
 * server does. Of batches that were given ahead it begins one when a lane is free.
 */
const { url, lanes } = workerData as RegisteringTask
const database = new Database(url, lanesConnections({ lanes }))
const kept = new KeptCollege()
const batches = batchesOn(database, (db, stamp) => kept.at(db, stamp))
const ahead: BatchAsked[] = []
let idle = lanes
/** Batches that are not told of yet, those given ahead among them; and whether nothing comes after them. */
let open = 0
let isLast = false

parentPort!.on('message', (asked: BatchAsked | 'warm' | 'turning' | 'end') => {
  if (asked === 'turning') return parentPort!.postMessage(asked)
  if (asked === 'end') {
    isLast = true
    return end()
  }
  // What cannot be read now is read with the first batch.
  if (asked === 'warm') return void warm().catch(() => {})
  open++
  if (!asked.skip) return void register(asked)
  ahead.push(asked)
  begin()
})

function begin() {
  while (idle > 0 && ahead.length > 0) {
    idle--
    void register(ahead.shift()!).finally(() => {
      idle++
      begin()
    })
  }
}

async function register({ id, presses, skip }: BatchAsked): Promise<void> {
  const said = await batches(presses, skip).then(({ answers, milliseconds }): BatchTold =>
    ({ id, answers: answers.map(answer => answer && saidOf(answer)), milliseconds }),
  (problem: unknown): BatchTold => ({ id, problem: saidOf(problem) }))
  parentPort!.postMessage(said)
  open--
  end()
}

/** Lets go of everything, where the last batch is told of. */
function end() {
  if (isLast && open === 0) void database.close().finally(() => parentPort!.close())
}

/** The college, and the sections of the terms for which people register. */
async function warm() {
  await database.read(async (db) => {
    const college = await kept.at(db, (await readStamp(db)).catalog)
    const date = dateIn(new Date().toISOString(), college.zone)
    for (const term of college.catalog.terms.filter(one => one.scheduled && one.end >= date)) await college.sections.known(db, term.code)
  })
}
