import { randomUUID } from 'node:crypto'
import { setTimeout as wait } from 'node:timers/promises'
import { drizzle, type MySql2Database } from 'drizzle-orm/mysql2'
import mysql, { type Pool, type PoolConnection } from 'mysql2/promise'
import { type NodeAddress, readAddresses } from './addresses'
import { Busy, errorNumber, isConnectionLost, OutcomeUnknown, Unavailable } from './failures'
import { Nodes, type NodeState } from './nodes'
import * as schema from './schema'
import { noteSpan } from './trace'

/** One connection as the store asks it: outside a transaction, or inside one. */
export type Executor = MySql2Database<typeof schema>

/** How long a request waits, in milliseconds: for a connection, for all of a read, for all of a transaction with its repetitions. */
export const WAITS = { connection: 3000, read: 8000, write: 10_000 }
/** Milliseconds until another node is asked for what one could not say. */
const LOOK_ELSEWHERE_MS = 40
/** Milliseconds of waiting that a trace tells. */
const WORTH_TELLING_MS = 2
/** Requests that may stand in line for a connection; more are told at once. */
const MOST_WAITING = 400
/** Seconds that MariaDB itself gives a statement and a lock. */
const ON_CONNECT = 'SET SESSION tx_isolation = \'READ-COMMITTED\', innodb_lock_wait_timeout = 3, lock_wait_timeout = 5, '
  + 'max_statement_time = 6'
/** In a cluster whoever reads, or begins to change, first has everything that anybody was told is kept, on whichever node. */
const ON_CONNECT_IN_CLUSTER = `${ON_CONNECT}, wsrep_sync_wait = 1`
/**
 * Deadlock, lock wait time-out, "not ready" of a cluster node, changed since read, a deadlock over the next number of a table: the
 * transaction leaves nothing behind.
 */
const AGAIN = new Set([1213, 1205, 1047, 1020, 1467])
/** Of these, what says while a change is being kept that it was not. Anything else then leaves it open. */
const NOT_KEPT = new Set([1213, 1205, 1020, 1467])
const DUPLICATE = 1062

/** The connections to one node. */
interface NodePool { pool: Pool, lent: Set<PoolConnection>, gone: Set<() => void> }

/**
 * The database as the server sees it: one, or the nodes of a cluster. What is read or written goes through one connection that is lent for
 * it: nobody who holds one can ask for a second, and every wait ends. In a cluster a node that goes away is left at once for another one.
 * Dates stay text, so that no zone of this machine creeps in.
 */
export class Database {
  private readonly pools: NodePool[]
  private readonly addresses: readonly NodeAddress[]
  private readonly nodes: Nodes | null
  private readonly known = new WeakMap<object, Executor>()
  private readonly unwatch: () => void
  /** Who waits for a connection now. */
  private asking = 0

  constructor(private readonly url: string, private readonly connections = 16, private readonly waits = WAITS,
    tell?: (name: string, isUp: boolean) => void) {
    this.addresses = readAddresses(url)
    this.nodes = this.addresses.length > 1 ? Nodes.of(url, tell) : null
    this.pools = this.addresses.map(address => this.poolOf(address.url, connections))
    // Whoever waits for a node that is gone hears of it now.
    this.unwatch = this.nodes?.onDown((index) => {
      for (const end of [...this.pools[index]!.gone]) end()
      for (const connection of [...this.pools[index]!.lent]) cut(connection)
    }) ?? (() => {})
  }

  private poolOf(uri: string, connections: number): NodePool {
    const pool = mysql.createPool({ uri, connectionLimit: connections, queueLimit: MOST_WAITING, connectTimeout: this.waits.connection,
      dateStrings: true, timezone: 'Z', charset: 'utf8mb4', supportBigNumbers: true, enableKeepAlive: true,
      // A stack taken before every statement costs more than many a statement; an error keeps its number and its words without it.
      trace: false })
    // The event brings a connection of the driver's older kind; one that is not set up as it must be is not used.
    pool.on('connection', (connection: unknown) => {
      const raw = connection as { query: (text: string, told: (problem: Error | null) => void) => void, destroy: () => void }
      raw.query(this.nodes ? ON_CONNECT_IN_CLUSTER : ON_CONNECT, problem => problem && raw.destroy())
    })
    return { pool, lent: new Set(), gone: new Set() }
  }

  async close() {
    this.unwatch()
    if (this.nodes) Nodes.leave(this.url)
    await Promise.all(this.pools.map(({ pool }) => pool.end().catch(() => {})))
  }

  /** Whether more wait for a connection than there are. */
  isCrowded = () => this.asking > this.connections

  /** How the nodes of the cluster are; empty where there is one database. */
  states = (): NodeState[] => this.nodes?.states() ?? []

  /** Reads outside a transaction. Throws `Busy` or `Unavailable` when the database does not answer in time, here in milliseconds. */
  async read<T>(work: (db: Executor) => Promise<T>, milliseconds = this.waits.read): Promise<T> {
    const until = Date.now() + milliseconds
    for (;;) {
      const node = this.nodes?.reader() ?? 0
      try {
        return await this.lend(node, until - Date.now(), ({ executor }) => work(executor))
      }
      catch (problem) {
        const mayRepeat = problem instanceof Unavailable || AGAIN.has(errorNumber(problem))
        if (!this.nodes || !mayRepeat || Date.now() + LOOK_ELSEWHERE_MS >= until) throw problem
        this.nodes.suspect(node)
        await wait(LOOK_ELSEWHERE_MS)
      }
    }
  }

  /**
   * One transaction, read committed, again where the database asks for it, with growing pauses. Where the answer to keeping it is lost, it
   * is done again under the same mark: either the mark is there, and what was done the first time is the answer, or it never will be.
   * Throws `OutcomeUnknown` when the database does not say so in time: it may have been kept or not.
   * With `begins` the first statement of the work starts the transaction itself, which saves a round trip; it has a key of its own by which
   * it is known, and what happened to it is for whoever called to find out.
   */
  async write<T>(work: (tx: Executor) => Promise<T>, { begins = false } = {}): Promise<T> {
    const until = Date.now() + this.waits.write
    const mark = begins ? null : randomUUID()
    let stayedLocked = false
    let doubt: InDoubt<T> | null = null
    for (let attempt = 1; ; attempt++) {
      const node = this.nodes?.writer() ?? 0
      try {
        return await this.lend(node, until - Date.now(), loan => transact(loan, work, mark))
      }
      catch (problem) {
        if (problem instanceof KeptBefore) return doubt!.result
        if (problem instanceof InDoubt) doubt = problem as InDoubt<T>
        const isLocked = AGAIN.has(errorNumber(problem)) || problem instanceof Repeat
        // What leaves nothing behind may go better the next time, and in a cluster on another node.
        const mayRepeat = isLocked || (problem instanceof InDoubt && mark !== null)
          || (problem instanceof Unavailable && (this.nodes !== null || doubt !== null))
        stayedLocked ||= isLocked
        const pause = Math.random() * Math.min(20 * 2 ** attempt, 400)
        if (mayRepeat && Date.now() + pause < until) {
          if (isOfTheNode(problem)) this.nodes?.suspect(node)
          await wait(pause)
          continue
        }
        if (doubt && (this.nodes || mayRepeat)) throw new OutcomeUnknown('it was not told whether the change was kept', { cause: problem })
        // Time that ran out over rows that somebody held all the while is no trouble of the database's.
        if (isLocked || (stayedLocked && problem instanceof Unavailable && Date.now() >= until))
          throw new Busy('the rows stayed locked', { cause: problem })
        throw problem
      }
    }
  }

  /** Lends a connection for so long; when the time is over the connection is cut, and with it what it was doing. */
  private async lend<T>(node: number, milliseconds: number, work: (loan: Loan) => Promise<T>): Promise<T> {
    const { lent } = this.pools[node]!
    const asked = performance.now()
    const connection = await this.borrow(this.pools[node]!, Math.min(milliseconds, this.waits.connection))
    const given = performance.now()
    if (given - asked > WORTH_TELLING_MS) noteSpan('waited for a connection', asked)
    let overdue = false
    const timer = setTimeout(() => {
      overdue = true
      cut(connection)
    }, milliseconds)
    let broken = false
    lent.add(connection)
    try {
      return await work({ connection, executor: this.executorOf(connection) })
    }
    catch (problem) {
      broken = overdue || isConnectionLost(problem) || problem instanceof InDoubt
      if (problem instanceof InDoubt || problem instanceof KeptBefore) throw problem
      if (overdue) throw new Unavailable('the database did not answer in time', { cause: problem })
      if (broken) throw new Unavailable('the connection to the database was lost', { cause: problem })
      throw problem
    }
    finally {
      lent.delete(connection)
      noteSpan(this.nodes ? `database ${this.addresses[node]!.name}` : 'database', given)
      clearTimeout(timer)
      if (broken || overdue) connection.destroy()
      else connection.release()
    }
  }

  private async borrow({ pool, gone }: NodePool, milliseconds: number): Promise<PoolConnection> {
    const asked = pool.getConnection()
    this.asking++
    let late = false
    let timer: NodeJS.Timeout | undefined
    let leave = () => {}
    try {
      return await Promise.race([asked, new Promise<never>((_, fail) => {
        leave = () => fail(new Unavailable('the node went away'))
        gone.add(leave)
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
      this.asking--
      gone.delete(leave)
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

/** Being kept, when its answer was lost; with what it came to. */
class InDoubt<T> extends OutcomeUnknown {
  constructor(readonly result: T, cause: unknown) {
    super('the connection was lost while the change was being kept', { cause })
  }
}
/** The mark of this change is there: it was kept the time before. */
class KeptBefore extends Error {}

/** One round trip: the transaction begins, and is marked. */
const BEGIN_MARKED = 'BEGIN NOT ATOMIC START TRANSACTION; INSERT INTO write_marks (id, kept_at) VALUES (?, UTC_TIMESTAMP(3)); END'

async function transact<T>({ connection, executor }: Loan, work: (tx: Executor) => Promise<T>, mark: string | null): Promise<T> {
  let result: T
  try {
    if (mark !== null) await begin(connection, mark)
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
    if (isConnectionLost(problem)) throw new InDoubt(result, problem)
    if (!NOT_KEPT.has(errorNumber(problem))) {
      cut(connection)
      throw new InDoubt(result, problem)
    }
    throw problem
  }
  return result
}

async function begin(connection: PoolConnection, mark: string) {
  try {
    await connection.query(BEGIN_MARKED, [mark])
  }
  catch (problem) {
    if (errorNumber(problem) === DUPLICATE) throw new KeptBefore()
    throw problem
  }
}

/** Whether another node may do better: this one is gone, or belongs to no cluster that can decide. */
const isOfTheNode = (problem: unknown) =>
  problem instanceof Unavailable || problem instanceof OutcomeUnknown || errorNumber(problem) === 1047

/** What was read before the transaction is out of date: it is to be done again from the start. */
export class Repeat extends Error {}

/** Ends a connection at once: whoever waits for an answer on it hears of it. */
function cut(connection: PoolConnection) {
  const { stream } = connection.connection as unknown as { stream: { destroy: (problem: Error) => void } }
  stream.destroy(Object.assign(new Error('cut after waiting too long'), { code: 'PROTOCOL_CONNECTION_LOST' }))
}
