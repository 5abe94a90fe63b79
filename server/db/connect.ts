import { drizzle, type MySql2Database } from 'drizzle-orm/mysql2'
import { migrate } from 'drizzle-orm/mysql2/migrator'
import mysql from 'mysql2/promise'
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

export function applyMigrations(db: Database, folder: string): Promise<void> {
  return migrate(db, { migrationsFolder: folder })
}
