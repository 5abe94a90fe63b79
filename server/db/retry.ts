import type { Database } from './connect'

/** Deadlock, lock wait time-out, and "not ready" of a cluster node: the transaction left nothing behind and may be tried again. */
const RETRIABLE = new Set([1213, 1205, 1047])
const ATTEMPTS = 8

type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0]

/** Runs one transaction, again where the database asks for it. */
export async function inTransaction<T>(db: Database, work: (tx: Transaction) => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt++) {
    try {
      return await db.transaction(work, { isolationLevel: 'read committed' })
    }
    catch (problem) {
      if (attempt >= ATTEMPTS || !RETRIABLE.has(errorNumber(problem))) throw problem
    }
  }
}

/** MariaDB's error number, through the wrappers that a query builder puts around it; 0 for anything else. */
export function errorNumber(problem: unknown): number {
  for (let inner = problem; inner instanceof Error; inner = inner.cause) {
    if ('errno' in inner && typeof inner.errno === 'number') return inner.errno
  }
  return 0
}
