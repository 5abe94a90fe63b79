import { randomUUID } from 'node:crypto'
import { setTimeout as wait } from 'node:timers/promises'
import { sql } from 'drizzle-orm'
import { migrate } from 'drizzle-orm/mysql2/migrator'
import type { Database } from './connect'

/** Seconds for which a turn is taken; whoever is at it says again and again that they still are. */
const TURN_S = 15
const AGAIN_MS = 5000
const LOOK_MS = 300

/**
 * Brings a database to the schema of a folder of migrations. Of several servers that start at once one does it, the others wait until it
 * has: a row is the turn, since a cluster keeps no lock but rows. A turn whose taker died is free after 15 seconds. A database that is
 * further than the folder, because a newer version was there, is left as it is.
 */
export async function applyMigrations(db: Database, folder: string): Promise<void> {
  const taker = randomUUID()
  await db.execute(sql`CREATE TABLE IF NOT EXISTS migration_turn (id int PRIMARY KEY, taker char(36) NOT NULL,
    until_at datetime(3) NOT NULL) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin`)
  await db.execute(sql`INSERT IGNORE INTO migration_turn (id, taker, until_at) VALUES (1, '', '2000-01-01')`)
  while (!await take(db, taker)) await wait(LOOK_MS)
  const timer = setInterval(() => void take(db, taker).catch(() => {}), AGAIN_MS)
  try {
    await migrate(db, { migrationsFolder: folder })
  }
  finally {
    clearInterval(timer)
    await db.execute(sql`UPDATE migration_turn SET until_at = '2000-01-01' WHERE id = 1 AND taker = ${taker}`)
  }
}

async function take(db: Database, taker: string): Promise<boolean> {
  const [done] = await db.execute(sql`UPDATE migration_turn SET taker = ${taker}, until_at = UTC_TIMESTAMP(3) + INTERVAL ${TURN_S} SECOND
    WHERE id = 1 AND (taker = ${taker} OR until_at < UTC_TIMESTAMP(3))`) as unknown as [{ affectedRows: number }]
  return done.affectedRows === 1
}
