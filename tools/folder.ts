import { mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join, relative } from 'node:path'
import { BEGINNING } from '../server/college/beginning'
import { type FolderResult, giveFolder, giveRecordsAndPlans, giveRoster, takeFolder } from '../server/college/folder'
import { makeInvitation } from '../server/college/invitation'
import { Database, type Executor } from '../server/db/database'
import { addCollege, hasCollege } from '../server/db/store/college'
import { officePeople } from '../server/db/store/people'

/**
 * `tsx tools/folder.ts import FOLDER [--dry-run]`: checks a college's folder and puts all of it in force, or nothing, in the database of
 * DATABASE_URL; a roster of the open standard is known by its manifest. `tsx tools/folder.ts export FOLDER [--roster|--plans]`: writes the
 * college there, as a roster, or the records and plans of all students.
 */
const [what, folder, ...flags] = process.argv.slice(2)
const url = process.env.DATABASE_URL
if (!url) throw new Error('DATABASE_URL is not set')
if (!folder || (what !== 'import' && what !== 'export'))
  throw new Error('Write: import FOLDER [--dry-run], or export FOLDER [--roster | --plans]')

const database = new Database(url, 2, { connection: 5000, read: 600_000, write: 1_800_000 })
/** Most bytes of one file: a table of half a million rows. */
const MOST_BYTES = 100_000_000
/** Problems that are printed. */
const SHOWN = 60

function filesIn(directory: string): Record<string, string> {
  const found: Record<string, string> = {}
  const visit = (at: string) => {
    for (const name of readdirSync(at).sort()) {
      const path = join(at, name)
      if (statSync(path).isDirectory()) visit(path)
      else if (/\.(csv|json)$/i.test(name)) {
        if (statSync(path).size > MOST_BYTES)
          throw new Error(`${path} is larger than ${MOST_BYTES / 1e6} MB. Send its rows in several files.`)
        found[relative(directory, path)] = readFileSync(path, 'utf8')
      }
    }
  }
  visit(directory)
  return found
}

async function bringIn(): Promise<number> {
  const files = filesIn(folder!)
  const isNew = !await database.write(hasCollege)
  if (isNew && !files['college.json']) {
    console.error('There is no college in this database yet, and no college.json in the folder. '
      + 'Add one, or start the server and set the college up in a browser.')
    return 1
  }
  console.log(`Reading ${Object.keys(files).length} files of ${folder} …`)
  const keep = !flags.includes('--dry-run')
  const result = await tryOut(async (tx) => {
    if (isNew) await addCollege(tx, { ...BEGINNING, name: '-', zone: 'UTC' })
    return takeFolder(tx, files, { keep, actor: null, at: new Date().toISOString() })
  }, keep)
  if (!result.ok) {
    for (const { file, row, column, message } of result.problems.slice(0, SHOWN))
      console.error(`${file}${row === null ? '' : `, row ${row}`}${column === null ? '' : `, ${column}`}: ${message}`)
    console.error(`\n${result.problems.length} problems; nothing was changed.`)
    return 1
  }
  for (const aside of result.asides) console.log(`left aside: ${aside}`)
  for (const { file, added, changed, same, left } of result.tables)
    console.log(`${file.padEnd(16)} ${added} new, ${changed} changed, ${same} the same, ${left} not in the file and left as they are`)
  console.log(keep ? '\nAll of it is in force.' : '\nThis was a dry run; nothing was changed.')
  if (isNew && keep) await inviteOffice()
  return 0
}

/** What is not to be kept is done and taken back: a dry run goes the whole way. */
async function tryOut(work: (tx: Executor) => Promise<FolderResult>, keep: boolean): Promise<FolderResult> {
  const undone = new Error('taken back')
  let result: FolderResult | undefined
  await database.write(async (tx) => {
    result = await work(tx)
    if (!keep || !result.ok) throw undone
  }).catch((problem) => {
    if (problem !== undone) throw problem
  })
  return result!
}

/** Nobody can sign in yet: whoever is of the office gets a link by which to choose a password. */
async function inviteOffice() {
  await database.write(async (tx) => {
    for (const { id, name } of await officePeople(tx)) {
      const { code } = await makeInvitation(tx, id)
      console.log(`${name} chooses a password at /welcome#${code} of the server's address, within 14 days.`)
    }
  })
}

async function takeOut(): Promise<number> {
  if (!await database.write(hasCollege)) {
    console.error('There is no college in this database yet.')
    return 1
  }
  const give = flags.includes('--roster') ? giveRoster : flags.includes('--plans') ? giveRecordsAndPlans : giveFolder
  const files = await database.read(give)
  for (const [name, text] of Object.entries(files)) {
    const path = join(folder!, name)
    mkdirSync(dirname(path), { recursive: true })
    writeFileSync(path, text)
  }
  console.log(`${Object.keys(files).length} files are in ${folder}.`)
  return 0
}

const code = await (what === 'import' ? bringIn() : takeOut())
await database.close()
process.exit(code)
