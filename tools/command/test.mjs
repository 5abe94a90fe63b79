import { spawn } from 'node:child_process'
import { mkdirSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import { withCleanUp } from './clean-up.mjs'
import { CLIENT, GALERA } from './cluster.mjs'
import { checkDeveloping } from './develop.mjs'
import { bin, CHROMIUM, ensureBuild, ensureModules, ensurePackages, freePort, MARIADB, ROOT, run, startDatabase, startServer,
  STATE } from './machine.mjs'
import { checks, reportOf } from './reports.mjs'

const SUITES = ['lint', 'types', 'unit', 'server', 'cluster', 'browser']
const FOLDERS = ['packages', 'shared', 'server', 'app', 'demo', 'tools']
/** Browsers that go through journeys beside each other, each in a college of its own. */
const BROWSERS = 2

/**
 * Every suite, or those that are named, in two rows beside each other that leave no core of two idle: what asks databases, and what only
 * reads and computes. Whichever row is done goes through journeys, until none is left.
 */
export async function test(names) {
  const suites = names.length > 0 ? names : SUITES
  const unknown = suites.find(name => !SUITES.includes(name))
  if (unknown) {
    console.error(`There is no suite "${unknown}". Suites: ${SUITES.join(', ')}.`)
    process.exit(2)
  }
  const asked = name => suites.includes(name)
  ensurePackages([...MARIADB, ...(asked('browser') ? CHROMIUM : []), ...(asked('cluster') ? GALERA : []),
    ...(asked('server') ? CLIENT : [])])
  await ensureModules()
  mkdirSync(join(STATE, 'reports'), { recursive: true })
  const found = checks()
  await withCleanUp(async (onEnd) => {
    const running = new Set()
    onEnd(() => running.forEach(child => child.kill('SIGTERM')))
    const alone = suites.length === 1 && !asked('browser')
    const work = (command, args, env = {}) => runBeside(command, args, { env, beside: !alone, running })
    const single = (name, command, args) => found.single(name, () => work(bin(command), args))
    const vitest = (name, env) => found.suite(name, () => work(bin('vitest'), ['run', '--project', name, '--reporter=default',
      '--reporter=json', `--outputFile.json=${reportOf(name)}`], env))
    // What Nuxt makes of the files' names may be of an older checkout.
    if (asked('lint') || asked('types')) run(bin('nuxt'), ['prepare'], { stdio: 'ignore' })

    const needsServer = asked('server') || asked('browser')
    const database = needsServer ? await startDatabase('test') : null
    if (database) onEnd(database.stop)
    const college = async (name) => {
      await database.create(name, true)
      const status = await work(bin('tsx'), ['tools/load-demo.ts'], { DATABASE_URL: database.url(name) })
      if (status !== 0) throw new Error(`The demonstration could not be loaded into ${name}; see above.`)
      const server = await startServer({ databaseUrl: database.url(name), port: await freePort(), demo: true,
        log: join(STATE, `${name}.log`) })
      onEnd(server.stop)
      return { env: { DATABASE_URL: database.url(name), RIDGEWAY_ADDRESS: server.address, RIDGEWAY_DEMO: '1' }, leave: server.stop }
    }
    // Before all else: both write what the others read.
    if (asked('server')) {
      await database.create('dev_tests', true)
      const databaseUrl = database.url('dev_tests')
      await work(bin('tsx'), ['tools/load-demo.ts'], { DATABASE_URL: databaseUrl })
      await found.single('dev', async () => checkDeveloping({ databaseUrl, port: await freePort(), onEnd, log: join(STATE, 'dev.log') }))
    }
    if (needsServer || asked('cluster')) await found.step('build', ensureBuild)
    const asking = async () => {
      if (asked('cluster')) await vitest('cluster')
      if (!asked('server')) return
      const { env, leave } = await college('server_tests')
      await vitest('server', env)
      // What happens there by itself would go on beside the journeys.
      await leave()
    }
    const computing = async () => {
      if (asked('lint')) {
        await single('lint', 'eslint', ['.'])
        // Circles and layers, then exports that nobody uses.
        await single('layers', 'depcruise', ['--config', '.dependency-cruiser.mjs', ...FOLDERS])
        await single('exports', 'knip', ['--include', 'exports,types'])
      }
      if (asked('types')) await single('types', 'vue-tsc', ['-b', '--noEmit'])
      if (asked('unit')) await vitest('unit')
    }
    const rows = [computing(), asking()]
    if (asked('browser')) {
      await Promise.race(rows)
      await found.step('journeys', () => journeys(rows, { college, work, found }))
    }
    await Promise.all(rows)
    return found.tell() ? 0 : 1
  })
}

/** All journeys, file by file: a browser takes the next one when the row before it is done, and again when it has come to its end. */
async function journeys(rows, { college, work, found }) {
  const files = readdirSync(join(ROOT, 'tests/e2e')).filter(file => file.endsWith('.spec.ts')).sort()
  await Promise.all(Array.from({ length: BROWSERS }, async (_, i) => {
    await rows[i]
    if (files.length === 0) return
    const { env } = await college(`browser_tests_${i + 1}`)
    for (let file = files.shift(); file; file = files.shift()) {
      const name = `browser-${file}`
      await found.report(name, () => work(bin('playwright'), ['test', `tests/e2e/${file}`],
        { ...env, PLAYWRIGHT_JSON_OUTPUT_NAME: reportOf(name) }))
    }
  }))
}

/** Runs a command and tells its exit status. What runs beside another is heard when it ends: the two do not talk into each other. */
async function runBeside(command, args, { env, beside, running }) {
  const stdio = beside ? ['ignore', 'pipe', 'pipe'] : 'inherit'
  const child = spawn(command, args, { cwd: ROOT, env: { ...process.env, ...env }, stdio })
  running.add(child)
  let said = ''
  for (const stream of [child.stdout, child.stderr]) stream?.on('data', part => said += part)
  const status = await new Promise((done, fail) => child.once('error', fail).once('close', done))
  running.delete(child)
  if (said) process.stdout.write(said)
  return status ?? 1
}
