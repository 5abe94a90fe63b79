import { setTimeout as wait } from 'node:timers/promises'
import { drizzle, type MySql2Database } from 'drizzle-orm/mysql2'
import mysql, { type Pool, type PoolConnection } from 'mysql2/promise'
import { Busy, errorNumber, isConnectionLost, OutcomeUnknown, Unavailable } from './failures'
import * as schema from './schema'

/** One connection as the store asks it: outside a transaction, or inside one. */
export type Executor = MySql2Database<typeof schema>

/** How long a request waits, in milliseconds: for a connection, for all of a read, for all of a transaction with its repetitions. */
export const WAITS = { connection: 3000, read: 8000, write: 10_000 }
/** Requests that may stand in line for a connection; more are told at once. */
const MOST_WAITING = 400
/** Seconds that MariaDB itself gives a statement and a lock. */
const ON_CONNECT = 'SET SESSION tx_isolation = \'READ-COMMITTED\', innodb_lock_wait_timeout = 3, lock_wait_timeout = 5, '
  + 'max_statement_time = 6'
/**
 * Deadlock, lock wait time-out, "not ready" of a cluster node, changed since read, a deadlock over the next number of a table: the
 * transaction leaves nothing behind.
 */
const AGAIN = new Set([1213, 1205, 1047, 1020, 1467])

/**
 * The database as the server sees it. What is read or written goes through one connection that is lent for it: nobody who holds one can
 * ask for a second, and every wait ends. Dates stay text, so that no zone of this machine creeps in.
 */
export class Database {
  private readonly pool: Pool
  private readonly known = new WeakMap<object, Executor>()

  constructor(url: string, connections = 16, private readonly waits = WAITS) {
    this.pool = mysql.createPool({ uri: url, connectionLimit: connections, queueLimit: MOST_WAITING, connectTimeout: waits.connection,
      dateStrings: true, timezone: 'Z', charset: 'utf8mb4', supportBigNumbers: true, enableKeepAlive: true,
      // A stack taken before every statement costs more than many a statement; an error keeps its number and its words without it.
      trace: false })
    // The event brings a connection of the driver's older kind; one that is not set up as it must be is not used.
    this.pool.on('connection', (connection: unknown) => {
      const raw = connection as { query: (text: string, told: (problem: Error | null) => void) => void, destroy: () => void }
      raw.query(ON_CONNECT, problem => problem && raw.destroy())
    })
  }

  close = () => this.pool.end()

  /** Reads outside a transaction. Throws `Busy` or `Unavailable` when the database does not answer in time, here in milliseconds. */
  read<T>(work: (db: Executor) => Promise<T>, milliseconds = this.waits.read): Promise<T> {
    return this.lend(milliseconds, ({ executor }) => work(executor))
  }

  /**
   * One transaction, read committed, again where the database asks for it, with growing pauses.
   * Throws `OutcomeUnknown` when the connection was lost while it was being kept: it may have been kept or not.
   * With `begins` the first statement of the work starts the transaction itself, which saves a round trip.
   */
  async write<T>(work: (tx: Executor) => Promise<T>, { begins = false } = {}): Promise<T> {
    const until = Date.now() + this.waits.write
    let stayedLocked = false
    for (let attempt = 1; ; attempt++) {
      try {
        return await this.lend(until - Date.now(), loan => transact(loan, work, begins))
      }
      catch (problem) {
        // Time that ran out over rows that somebody held all the while is no trouble of the database's.
        if (stayedLocked && problem instanceof Unavailable && Date.now() >= until)
          throw new Busy('the rows stayed locked', { cause: problem })
        if (!mayRepeat(problem)) throw problem
        stayedLocked = true
        const pause = Math.random() * Math.min(20 * 2 ** attempt, 400)
        if (Date.now() + pause >= until) throw new Busy('the rows stayed locked', { cause: problem })
        await wait(pause)
      }
    }
  }

  /** Lends a connection for so long; when the time is over the connection is cut, and with it what it was doing. */
  private async lend<T>(milliseconds: number, work: (loan: Loan) => Promise<T>): Promise<T> {
    const connection = await this.borrow(Math.min(milliseconds, this.waits.connection))
    let overdue = false
    const timer = setTimeout(() => {
      overdue = true
      cut(connection)
    }, milliseconds)
    let broken = false
    try {
      return await work({ connection, executor: this.executorOf(connection) })
    }
    catch (problem) {
      broken = overdue || isConnectionLost(problem)
      if (problem instanceof OutcomeUnknown) throw problem
      if (overdue) throw new Unavailable('the database did not answer in time', { cause: problem })
      if (broken) throw new Unavailable('the connection to the database was lost', { cause: problem })
      throw problem
    }
    finally {
      clearTimeout(timer)
      if (broken || overdue) connection.destroy()
      else connection.release()
    }
  }

  private async borrow(milliseconds: number): Promise<PoolConnection> {
    const asked = this.pool.getConnection()
    let late = false
    let timer: NodeJS.Timeout | undefined
    try {
      return await Promise.race([asked, new Promise<never>((_, fail) => {
        timer = setTimeout(() => {
          late = true
          fail(new Error('waited too long'))
        }, Math.max(1, milliseconds))
      })])
    }
    catch (problem) {
      // One that comes after all goes back to the others.
      asked.then(connection => connection.release(), () => {})
      if (late) throw new Busy('no connection to the database was free', { cause: problem })
      if (problem instanceof Error && /queue limit/i.test(problem.message)) throw new Busy('too many requests wait', { cause: problem })
      if (isConnectionLost(problem)) throw new Unavailable('the database cannot be reached', { cause: problem })
      throw problem
    }
    finally {
      clearTimeout(timer)
    }
  }

  private executorOf(connection: PoolConnection): Executor {
    const key = connection.connection
    const before = this.known.get(key)
    if (before) return before
    const made = drizzle(connection, { schema, mode: 'default' }) as unknown as Executor
    this.known.set(key, made)
    return made
  }
}

interface Loan { connection: PoolConnection, executor: Executor }

async function transact<T>({ connection, executor }: Loan, work: (tx: Executor) => Promise<T>, begins: boolean): Promise<T> {
  if (!begins) await connection.query('START TRANSACTION')
  let result: T
  try {
    result = await work(executor)
  }
  catch (problem) {
    if (!isConnectionLost(problem)) await connection.query('ROLLBACK').catch(() => cut(connection))
    throw problem
  }
  try {
    await connection.query('COMMIT')
  }
  catch (problem) {
    if (isConnectionLost(problem)) throw new OutcomeUnknown('the connection was lost while the change was being kept', { cause: problem })
    throw problem
  }
  return result
}

const mayRepeat = (problem: unknown) => AGAIN.has(errorNumber(problem)) || problem instanceof Repeat

/** What was read before the transaction is out of date: it is to be done again from the start. */
export class Repeat extends Error {}

/** Ends a connection at once: whoever waits for an answer on it hears of it. */
function cut(connection: PoolConnection) {
  const { stream } = connection.connection as unknown as { stream: { destroy: (problem: Error) => void } }
  stream.destroy(Object.assign(new Error('cut after waiting too long'), { code: 'PROTOCOL_CONNECTION_LOST' }))
}
