import { randomUUID } from 'node:crypto'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Worker } from 'node:worker_threads'
import { and, eq, inArray } from 'drizzle-orm'
import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest'
import { batchesOn } from '../../server/acts/batches'
import { Lanes } from '../../server/acts/lanes'
import type { Press } from '../../server/acts/register'
import { KeptCollege } from '../../server/college/college'
import { Refusal } from '../../server/college/refusal'
import { Database } from '../../server/db/database'
import { OutcomeUnknown } from '../../server/db/failures'
import * as s from '../../server/db/schema'
import { RegisteringThread } from '../../server/workers/registering-thread'
import type { RunResult } from '../../shared/contract/acts/student'
import { bundleWorkers } from '../../tools/build/bundle-workers'
import { close, db } from './client'
import { emptyWeeks, freshStudents, lectureOf, lineUpAll, TERM } from './students'

/** Registering in a thread of its own: it says what is said here, and one that ends loses nothing and does nothing twice. */
const COURSE = 'LNG 140'
const url = process.env.DATABASE_URL!
const kept = new KeptCollege()
const office = new Database(url, 4)
const here = batchesOn(office, (tx, stamp) => kept.at(tx, stamp))
let folder: string
let ids: number[]
let thread: RegisteringThread
const ended: Error[] = []
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'ridgeway-threads-'))
  await bundleWorkers(folder)
  ids = await freshStudents(40)
  thread = new RegisteringThread(join(folder, 'registering-worker.mjs'), { url, lanes: 2 }, problem => ended.push(problem))
  thread.warm()
})
beforeEach(() => emptyWeeks(ids))
afterAll(async () => {
  await thread.close()
  await emptyWeeks(ids)
  await Promise.all([office.close(), rm(folder, { recursive: true })])
  await close()
})

const press = (student: number, row: number, key: string = randomUUID()): Press =>
  ({ student, actor: student, term: TERM, key, rowIds: [row], at: '2026-11-10T16:00:00.000Z' })
const seatsTaken = async (pool: number) => (await db.select().from(s.seatPools).where(eq(s.seatPools.id, pool)))[0]!.taken
const registeredIn = async (section: number) => (await db.select({ student: s.registrations.student }).from(s.registrations)
  .where(and(eq(s.registrations.section, section), inArray(s.registrations.student, ids)))).map(row => row.student).sort((a, b) => a - b)

describe('batches in a thread', () => {
  it('are answered as they are without one: results, refusals, and nothing of those whose row somebody holds', async () => {
    const { section } = await lectureOf(COURSE, 2)
    const keys = ids.slice(0, 5).map(() => randomUUID())
    const all = async (batches: typeof here) => {
      await emptyWeeks(ids)
      await db.delete(s.registrationRuns).where(inArray(s.registrationRuns.student, ids))
      const rows = await lineUpAll(ids.slice(0, 5), COURSE, [section])
      const presses = ids.slice(0, 5).map((id, i) => press(id, i === 1 ? 999_999_999 : rows.get(id)!, keys[i]))
      return office.write(async (tx) => {
        await tx.select().from(s.students).where(eq(s.students.person, ids[4]!)).for('update')
        const { answers, milliseconds } = await batches(presses, true)
        expect(milliseconds).toBeGreaterThan(0)
        return answers.map(answer => answer && (answer instanceof Refusal
          ? { code: answer.code, words: answer.message, way: answer.way }
          : { outcomes: answer.rows.map(row => [row.course, row.outcome, row.findings]) }))
      })
    }
    const told = await all(thread.batches)
    expect(told).toEqual(await all(here))
    expect(told.map(one => one && ('code' in one ? one.code : one.outcomes[0]![1])))
      .toEqual(['register', 'nothing-chosen', 'register', 'refused', null])
  })

  it('that are given ahead are begun in their order', async () => {
    const { section, pool } = await lectureOf(COURSE, 7)
    const rows = await lineUpAll(ids, COURSE, [section])
    const line = new Lanes(thread.batches, { lanes: 1, most: 4, ahead: 1 })
    const results = await Promise.all(ids.map(id => line.register(press(id, rows.get(id)!))))
    expect(results.map(result => result.rows[0]!.outcome)).toEqual(ids.map((_, i) => i < 7 ? 'register' : 'refused'))
    expect(await seatsTaken(pool)).toBe(7)
  })

  it('are undecided where the thread ends, and the same keys tell: each acts once, through the next thread', async () => {
    const { section, pool } = await lectureOf(COURSE, 64)
    const some = ids.slice(0, 12)
    const rows = await lineUpAll(some, COURSE, [section])
    const presses = some.map(id => press(id, rows.get(id)!))
    const line = new Lanes(thread.batches, { lanes: 2, most: 4, ahead: 2 })
    const kept = await line.register(presses[0]!)
    // It ends while its batches wait for seats that somebody holds.
    let pressed: Promise<PromiseSettledResult<RunResult>[]> | undefined
    await office.write(async (tx) => {
      await tx.select().from(s.seatPools).where(eq(s.seatPools.id, pool)).for('update')
      pressed = Promise.allSettled(presses.slice(1).map(one => line.register(one)))
      await (Reflect.get(thread, 'worker') as Worker).terminate()
    })
    const undecided = (await pressed!).filter(one => one.status === 'rejected')
    expect(undecided.length).toBeGreaterThan(0)
    for (const { reason } of undecided) expect(reason).toBeInstanceOf(OutcomeUnknown)
    const again = await Promise.all(presses.map(one => line.register(one)))
    expect(again.map(result => result.rows[0]!.outcome)).toEqual(some.map(() => 'register'))
    expect(again[0]).toEqual({ ...kept, repeated: true })
    expect(await registeredIn(section)).toEqual([...some].sort((a, b) => a - b))
    expect(await seatsTaken(pool)).toBe(some.length)
    expect(ended).toEqual([])
  })

  it('are undecided where the thread no longer turns: it is ended, that is told, and the next batch has another', async () => {
    const file = join(folder, 'stuck.mjs')
    const isStuck = new Int32Array(new SharedArrayBuffer(4))
    // A thread that is caught in a loop with the first batch that it is given; the one after it turns.
    await writeFile(file, `import { parentPort, threadId, workerData } from 'node:worker_threads'
      parentPort.on('message', (asked) => {
        if (asked === 'turning') return parentPort.postMessage(asked)
        if (Atomics.exchange(workerData.isStuck, 0, 1) === 0) for (;;);
        parentPort.postMessage({ id: asked.id, answers: [], milliseconds: threadId })
      })`)
    const said: Error[] = []
    const own = new RegisteringThread(file, { url, lanes: 1, isStuck } as never, problem => said.push(problem),
      { askedEach: 50, unheard: 3 })
    await expect(own.batches([], true)).rejects.toBeInstanceOf(OutcomeUnknown)
    expect(said.map(problem => problem.message)).toEqual(['the thread that registers no longer turned'])
    expect((await own.batches([], true)).answers).toEqual([])
    expect(said).toHaveLength(1)
    await (Reflect.get(own, 'worker') as Worker).terminate()
  })

  it('that wait for a seat longer than a thread may be silent are waited for: it turns', async () => {
    const { section, pool } = await lectureOf(COURSE, 64)
    const [first, second] = ids as [number, number]
    const rows = await lineUpAll([first, second], COURSE, [section])
    const said: Error[] = []
    // Until it has begun it may be silent for long.
    const turns = { askedEach: 10, unheard: 1e6 }
    const own = new RegisteringThread(join(folder, 'registering-worker.mjs'), { url, lanes: 1 }, problem => said.push(problem), turns)
    await own.batches([press(first, rows.get(first)!)], false)
    turns.unheard = 100
    let asked = 0
    const worker = Reflect.get(own, 'worker') as Worker
    const post = worker.postMessage.bind(worker)
    worker.postMessage = (words: unknown) => {
      if (words === 'turning') asked++
      post(words)
    }
    let batch!: ReturnType<typeof own.batches>
    await office.write(async (tx) => {
      await tx.select().from(s.seatPools).where(eq(s.seatPools.id, pool)).for('update')
      batch = own.batches([press(second, rows.get(second)!)], false)
      await vi.waitUntil(() => asked > 105, { timeout: 30_000 })
    })
    expect(((await batch).answers[0] as RunResult).rows[0]!.outcome).toBe('register')
    expect(said).toEqual([])
    await own.close()
  })

  it('end when those that were begun are done, and nothing is left open', async () => {
    const { section } = await lectureOf(COURSE, 64)
    const rows = await lineUpAll(ids.slice(0, 4), COURSE, [section])
    const own = new RegisteringThread(join(folder, 'registering-worker.mjs'), { url, lanes: 1 })
    const presses = ids.slice(0, 4).map(id => press(id, rows.get(id)!))
    // The second is given ahead of its lane; both are answered though the end was asked for at once.
    const batches = [own.batches(presses.slice(0, 2), true), own.batches(presses.slice(2), true)]
    await own.close()
    const answers = (await Promise.all(batches)).flatMap(batch => batch.answers)
    expect(answers.map(answer => (answer as RunResult).rows[0]!.outcome)).toEqual(['register', 'register', 'register', 'register'])
    expect(Reflect.get(own, 'worker')).toBeNull()
    await own.close()
  })
})
