import { drizzle, type MySql2Database } from 'drizzle-orm/mysql2'
import mysql from 'mysql2/promise'
import { readAddresses } from './addresses'
import * as schema from './schema'

export type Database = MySql2Database<typeof schema>
/** A database or a transaction on it. */
export type Executor = Database | Parameters<Parameters<Database['transaction']>[0]>[0]

/** Opens a pool; dates stay text, so that no zone of this machine creeps in. */
export function connect(url: string, connections = 24): { db: Database, close: () => Promise<void> } {
  const pool = mysql.createPool({ uri: url, connectionLimit: connections, dateStrings: true, timezone: 'Z', charset: 'utf8mb4',
    supportBigNumbers: true })
  return { db: drizzle(pool, { schema, mode: 'default' }), close: () => pool.end() }
}

/**
 * The address of one node for commands that run once: of several hosts the first whose database answers. Throws what the last one said.
 */
export async function reachable(url: string): Promise<string> {
  let last: unknown
  for (const { url: one } of readAddresses(url)) {
    try {
      const connection = await mysql.createConnection({ uri: one, connectTimeout: 3000 })
      await connection.query('SELECT 1 FROM DUAL').finally(() => connection.destroy())
      return one
    }
    catch (problem) {
      last = problem
    }
  }
  throw last
}
