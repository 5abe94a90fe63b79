import { spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import { createReadStream, createWriteStream, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, renameSync, rmSync,
  writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { createGunzip, createGzip } from 'node:zlib'
import { sql } from 'drizzle-orm'
import { connect, type Database, reachable } from '../server/db/connect'

/**
 * `tsx tools/backup.ts backup FOLDER`: writes everything as it is at one moment into a folder of its own under FOLDER.
 * `… backup FOLDER --follow`: copies the database's log of changes there as it is written, until it is ended.
 * `… restore FOLDER [--until INSTANT]`: brings the newest backup before that instant back into the empty database of DATABASE_URL, and
 * what the copied log holds since, up to that second. All of it with MariaDB's own dump, log reader and client.
 */
interface Manifest { at: string, database: string, log: { file: string, position: number } | null, sha256: string, students: number }

const [what, folder, ...options] = process.argv.slice(2)
const url = process.env.DATABASE_URL
if (!url) throw new Error('DATABASE_URL is not set')
if (!folder) throw new Error('Name the folder.')
const address = new URL(await reachable(url))
const database = decodeURIComponent(address.pathname.slice(1))
/** The account stands in a file that only this user reads: on a command line everybody on the machine would read it. */
const secrets = mkdtempSync(join(tmpdir(), 'ridgeway-'))
const account = join(secrets, 'account.cnf')
writeFileSync(account, ['[client]', `host=${address.hostname}`, `port=${address.port || 3306}`, 'protocol=tcp',
  `user="${decodeURIComponent(address.username)}"`,
  `password="${decodeURIComponent(address.password).replace(/["\\]/g, '\\$&')}"`, ''].join('\n'),
{ mode: 0o600 })
process.once('exit', () => rmSync(secrets, { recursive: true, force: true }))

/** Starts one of MariaDB's commands; `done` throws what it complained about when it failed. */
function start(command: string, args: string[], input: 'pipe' | 'ignore' = 'ignore') {
  const child = spawn(command, [`--defaults-extra-file=${account}`, ...args], { stdio: [input, 'pipe', 'pipe'],
    env: { ...process.env, TZ: 'UTC' } })
  let said = ''
  child.stderr!.on('data', (part: Buffer) => said += part.toString())
  const done = new Promise<void>((resolve, fail) => {
    child.once('error', () => fail(new Error(`${command} is not installed: it comes with the package mariadb-client.`)))
    child.once('close', code => code === 0 ? resolve() : fail(new Error(`${command} failed: ${said.trim().split('\n').at(-1)}`)))
  })
  done.catch(() => {})
  return { child, done }
}

async function sha256Of(file: string): Promise<string> {
  const hash = createHash('sha256')
  await pipeline(createReadStream(file), hash)
  return hash.digest('hex')
}

async function backup(into: string): Promise<void> {
  const { db, close } = connect(await reachable(url!), 1)
  const [on] = (await db.execute(sql`SELECT @@log_bin log`) as unknown as [{ log: number }[]])[0]
  const students = await count(db, 'students')
  await close()
  mkdirSync(into, { recursive: true })
  const at = new Date().toISOString()
  const place = join(into, at.replaceAll(':', '-'))
  const unfinished = `${place}.unfinished`
  mkdirSync(unfinished, { recursive: true })
  const file = join(unfinished, 'college.sql.gz')
  const { child, done } = start('mariadb-dump', ['--single-transaction', '--quick', '--hex-blob', '--skip-lock-tables',
    ...on!.log ? ['--master-data=2'] : [], database])
  let head = ''
  child.stdout!.on('data', (part: Buffer) => head.length < 20_000 && (head += part.toString('latin1')))
  await Promise.all([pipeline(child.stdout as Readable, createGzip({ level: 6 }), createWriteStream(file)), done])
  const log = /MASTER_LOG_FILE='([^']+)', MASTER_LOG_POS=(\d+)/.exec(head)
  const manifest: Manifest = { at, database, log: log ? { file: log[1]!, position: Number(log[2]) } : null,
    sha256: await sha256Of(file), students }
  writeFileSync(join(unfinished, 'manifest.json'), `${JSON.stringify(manifest, null, 2)}\n`)
  // What is there under its name is whole.
  renameSync(unfinished, place)
  console.log(`Kept ${students} students as of ${at} in ${place}.`)
  console.log(log
    ? `What changes from now on is kept by: ./ridgeway backup ${into} --follow`
    : 'This database keeps no log of changes (log_bin is off): it can be brought back to this moment only.')
}

/** Copies the log until it is ended; where it was ended before, it goes on with the newest file that is there. */
async function follow(into: string): Promise<void> {
  const newest = backupsIn(into).at(-1)
  if (!newest?.log) throw new Error('There is no backup here that names a place in the log of changes. Make one first, with log_bin on.')
  const logs = join(into, 'log')
  mkdirSync(logs, { recursive: true })
  const first = readdirSync(logs).sort().at(-1) ?? newest.log.file
  const { child, done } = start('mariadb-binlog', ['--read-from-remote-server', '--raw', '--stop-never',
    `--result-file=${logs}/`, first])
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => child.kill('SIGTERM'))
  console.log(`Copying the log of changes into ${logs} until this is ended.`)
  await done.catch((problem: Error) => {
    if (child.signalCode === null) throw problem
  })
}

async function restore(from: string, until: string | null): Promise<void> {
  if (until !== null && Number.isNaN(Date.parse(until))) throw new Error(`"${until}" is no instant: write 2026-11-30T08:15:00Z.`)
  const chosen = backupsIn(from).filter(one => until === null || one.at <= new Date(until).toISOString()).at(-1)
  if (!chosen) throw new Error(`There is no backup in ${from}${until ? ` from before ${until}` : ''}.`)
  const { db, close } = connect(await reachable(url!), 1)
  const [tables] = (await db.execute(sql`SELECT COUNT(*) n FROM information_schema.tables WHERE table_schema = ${database}`) as unknown as
    [{ n: number }[]])[0]
  if (Number(tables!.n) > 0)
    throw new Error(`The database ${database} is not empty. Name an empty one in DATABASE_URL: nothing that is there is overwritten.`)
  const file = join(chosen.place, 'college.sql.gz')
  if (await sha256Of(file) !== chosen.sha256) throw new Error(`${file} is not what was kept: it was changed, or cut short.`)
  console.log(`Bringing back ${chosen.students} students as of ${chosen.at}`)
  const client = start('mariadb', [database], 'pipe')
  await Promise.all([pipeline(createReadStream(file), createGunzip(), client.child.stdin!), client.done])
  if (chosen.log) await replay(from, chosen, until)
  const [last] = (await db.execute(sql`SELECT MAX(happened_at) at FROM ledger`) as unknown as [{ at: string | null }[]])[0]
  console.log(`Back: ${await count(db, 'students')} students, ${await count(db, 'registrations')} registered sections; `
    + `the ledger ends at ${last!.at ?? 'nothing'} (UTC).`)
  const wrong = await unlikeTheLedger(db)
  await close()
  if (wrong > 0) throw new Error(`${wrong} sections hold other seats than the ledger replays to: do not let people in.`)
  console.log('Every seat is as the ledger replays it.')
}

/** What the copied log holds after the backup, up to a second. */
async function replay(from: string, { log, ...chosen }: Manifest, until: string | null): Promise<void> {
  const logs = join(from, 'log')
  const files = existsSync(logs) ? readdirSync(logs).sort().filter(name => name >= log!.file) : []
  if (files[0] !== log!.file) {
    console.log(`The log of changes since then is not in ${logs}: it ends at the backup.`)
    return
  }
  const reader = start('mariadb-binlog', [`--start-position=${log!.position}`, `--database=${chosen.database}`,
    ...chosen.database === database ? [] : [`--rewrite-db=${chosen.database}->${database}`],
    ...until === null ? [] : [`--stop-datetime=${new Date(until).toISOString().slice(0, 19).replace('T', ' ')}`],
    ...files.map(name => join(logs, name))])
  const client = start('mariadb', [database], 'pipe')
  await Promise.all([pipeline(reader.child.stdout as Readable, client.child.stdin!), reader.done, client.done])
  console.log(`Replayed what changed since then${until ? ` until ${until}` : ''}.`)
}

const backupsIn = (path: string) => (existsSync(path) ? readdirSync(path) : []).filter(name =>
  existsSync(join(path, name, 'manifest.json')) && !name.endsWith('.unfinished')).sort().map(name =>
  ({ ...JSON.parse(readFileSync(join(path, name, 'manifest.json'), 'utf8')) as Manifest, place: join(path, name) }))

const count = async (db: Database, table: string) =>
  Number((await db.execute(sql.raw(`SELECT COUNT(*) n FROM ${table}`)) as unknown as [{ n: number }[]])[0][0]!.n)

/** Seat categories whose seats are not those that the ledger comes to. */
async function unlikeTheLedger(db: Database): Promise<number> {
  const [rows] = await db.execute(sql`SELECT p.id FROM seat_pools p LEFT JOIN (SELECT pool, SUM(CASE action WHEN 'register' THEN 1
    WHEN 'drop' THEN -1 WHEN 'withdraw' THEN -1 WHEN 'void' THEN -1 WHEN 'section cancelled' THEN -1 ELSE 0 END) n FROM ledger
    WHERE pool IS NOT NULL GROUP BY pool) l ON l.pool = p.id WHERE p.taken <> COALESCE(l.n, 0)`) as unknown as [unknown[]]
  return rows.length
}

try {
  const at = options.indexOf('--until')
  if (what === 'restore') await restore(folder, at >= 0 ? options[at + 1] ?? '' : null)
  else if (options.includes('--follow')) await follow(folder)
  else await backup(folder)
  process.exit(0)
}
catch (problem) {
  console.error((problem as Error).message)
  process.exit(1)
}
