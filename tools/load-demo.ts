import { resolve } from 'node:path'
import { loadDemo } from '../demo/load'
import { applyMigrations, connect } from '../server/db/connect'

/** `tsx tools/load-demo.ts`: migrates the database of DATABASE_URL and fills it with the demo college when it is empty. */
const url = process.env.DATABASE_URL
if (!url) throw new Error('DATABASE_URL is not set')
const { db, close } = connect(url, 4)
await applyMigrations(db, resolve(import.meta.dirname, '../server/db/migrations'))
const filled = await db.query.institution.findFirst()
if (!filled) {
  const loaded = await loadDemo(db)
  console.log(
    `demo data: ${loaded.courses} courses, ${loaded.sections} sections, ${loaded.students} students, `
    + `${loaded.registrations} registered sections`,
  )
}
await close()
