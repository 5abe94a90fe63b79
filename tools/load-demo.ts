import { resolve } from 'node:path'
import { loadLarge } from '../demo/large'
import { loadDemo } from '../demo/load'
import { connect, reachable } from '../server/db/connect'
import { applyMigrations } from '../server/db/migrations'

/**
 * `tsx tools/load-demo.ts [--large[=STUDENTS]]`: migrates the database of DATABASE_URL and fills it with the demo college when it is empty;
 * `--large` with one of real size, 20,000 students where no number is given.
 */
const url = process.env.DATABASE_URL
if (!url) throw new Error('DATABASE_URL is not set')
const large = process.argv.find(arg => /^--large(=\d+)?$/.test(arg))
const { db, close } = connect(await reachable(url), 4)
await applyMigrations(db, resolve(import.meta.dirname, '../server/db/migrations'))
const filled = await db.query.institution.findFirst()
if (!filled && large) {
  const began = Date.now()
  await loadLarge(db, { students: Number(large.split('=')[1] ?? 20_000), tell: (done, of) =>
    console.log(`large college: ${done} of ${of} students, ${Math.round((Date.now() - began) / 1000)} s`) })
}
else if (!filled) {
  const loaded = await loadDemo(db)
  console.log(
    `demo data: ${loaded.courses} courses, ${loaded.sections} sections, ${loaded.students} students, `
    + `${loaded.registrations} registered sections`,
  )
}
await close()
