import { resolve } from 'node:path'
import { connect, reachable } from '../server/db/connect'
import { applyMigrations } from '../server/db/migrations'

/** `tsx tools/migrate.ts`: brings the database of DATABASE_URL to the present schema. */
const url = process.env.DATABASE_URL
if (!url) throw new Error('DATABASE_URL is not set')
const { db, close } = connect(await reachable(url), 2)
await applyMigrations(db, resolve(import.meta.dirname, '../server/db/migrations'))
await close()
