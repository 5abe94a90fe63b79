import { LANES, Lanes } from '../acts/lanes'
import { KeptCollege } from '../college/college'
import { Door, doorConnections } from '../college/door'
import type { Executor, WAITS } from '../db/database'
import { Database } from '../db/database'
import { placesIn } from '../db/failures'
import { RegisteringThread } from '../workers/registering-thread'
import { threadFile } from '../workers/thread-file'

let opened: Database | undefined
let lanes: Lanes | undefined
let registering: RegisteringThread | undefined
const kept = new KeptCollege()

/** The college as this server keeps it. */
export const useKeptCollege = () => kept

/** DATABASE_URL, for threads that open it by themselves. */
export function databaseAddress(): string {
  const url = process.env.DATABASE_URL
  if (!url) throw new Error('DATABASE_URL is not set: start Ridgeway with ./ridgeway demo, or ./ridgeway start with a DATABASE_URL')
  return url
}

const open = (connections?: number, waits?: typeof WAITS) => new Database(databaseAddress(), connections, waits,
  (node, isUp) => isUp ? useLog().info({ node }, 'database node is back') : useLog().warn({ node }, 'database node is away'))

/** The server's one database. */
export const useDatabase = () => opened ??= open()

/** The thread that registers, with connections of its own, so that reading does not keep it waiting. */
export const useRegistering = () => registering ??= new RegisteringThread(threadFile('registering'),
  { url: databaseAddress(), lanes: LANES.lanes },
  problem => useLog().error({ where: placesIn(problem) }, 'the thread that registers has ended'))

/** Where presses of Register stand in line. */
export const useLanes = () => lanes ??= new Lanes(useRegistering().batches, { ...LANES, ahead: LANES.lanes })

let door: Door | undefined
let doorDatabase: Database | undefined
/** Connections for what must be known though all others are in use: who comes, and whether this server is well. */
const useDoorDatabase = () => doorDatabase ??= open(doorConnections)
/** Where every request is let in. */
export const useDoor = () => door ??= new Door(useDoorDatabase(), kept)

const looks = new Map<string, Promise<unknown>>()
/** A reading that many may ask for at once, such as whether this server is well: who comes while it goes on is answered with it. */
export function readOnce<Result>(name: string, milliseconds: number, work: (db: Executor) => Promise<Result>): Promise<Result> {
  const before = looks.get(name) as Promise<Result> | undefined
  if (before) return before
  const look = useDoorDatabase().read(work, milliseconds).finally(() => looks.delete(name))
  looks.set(name, look)
  return look
}

let patient: Database | undefined
/** For what takes its time, such as a whole college's folder: a few connections that wait for minutes. */
export const usePatientDatabase = () =>
  patient ??= open(4, { connection: 20_000, read: 120_000, write: 300_000 })

/** Lets go of everything, where the server stops. */
export const closeDatabases = () => Promise.all([opened, doorDatabase, registering, patient].map(one => one?.close()))
