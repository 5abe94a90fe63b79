import { spawn } from 'node:child_process'
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { withCleanUp } from './clean-up.mjs'
import { CLIENT, GALERA } from './cluster.mjs'
import { bin, CHROMIUM, ensureBuild, ensureModules, ensurePackages, freePort, MARIADB, ROOT, run, startDatabase, startServer,
  STATE } from './machine.mjs'
import { checks, reportOf } from './reports.mjs'

const SUITES = ['lint', 'types', 'unit', 'server', 'cluster', 'browser']
const FOLDERS = ['packages', 'shared', 'server', 'app', 'demo', 'tools']

/**
 * Every suite, or those that are named. What leaves a core idle runs beside something else: rules beside types, what waits for databases
 * beside what only computes. The journeys in the browser, which wait as people do, have the machine for themselves.
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
    const work = (command, args, { env, beside }) => runBeside(command, args, env, beside, running)
    const single = (name, command, args) => found.single(name, () => work(bin(command), args, { beside: asked('lint') && asked('types') }))
    const vitest = (name, beside, env = {}) => found.suite(name, () => work(bin('vitest'), ['run', '--project', name, '--reporter=default',
      '--reporter=json', `--outputFile.json=${reportOf(name)}`], { env, beside }))
    // What Nuxt makes of the files' names may be of an older checkout.
    if (asked('lint') || asked('types')) run(bin('nuxt'), ['prepare'], { stdio: 'ignore' })
    const rules = async () => {
      await single('lint', 'eslint', ['.'])
      // Circles and layers, then exports that nobody uses.
      await single('layers', 'depcruise', ['--config', '.dependency-cruiser.mjs', ...FOLDERS])
      await single('exports', 'knip', ['--include', 'exports,types'])
    }
    await Promise.all([asked('lint') && rules(), asked('types') && single('types', 'vue-tsc', ['-b', '--noEmit'])])

    const needsServer = asked('server') || asked('browser')
    if (needsServer || asked('cluster')) await found.step('build', ensureBuild)
    const database = needsServer ? await startDatabase('test') : null
    if (database) onEnd(database.stop)
    const college = async (name) => {
      await database.create(name, true)
      run(bin('tsx'), ['tools/load-demo.ts'], { env: { DATABASE_URL: database.url(name) } })
      const server = await startServer({ databaseUrl: database.url(name), port: await freePort(), demo: true,
        log: join(STATE, `${name}.log`) })
      onEnd(server.stop)
      return { DATABASE_URL: database.url(name), RIDGEWAY_ADDRESS: server.address, RIDGEWAY_DEMO: '1' }
    }
    const withDatabases = async () => {
      if (asked('cluster')) await vitest('cluster', asked('unit'))
      if (asked('server')) await vitest('server', asked('unit'), await college('server_tests'))
    }
    await Promise.all([withDatabases(), asked('unit') && vitest('unit', asked('cluster') || asked('server'))])

    if (asked('browser')) {
      const env = { ...await college('browser_tests'), PLAYWRIGHT_JSON_OUTPUT_NAME: reportOf('browser') }
      await found.suite('browser', () => work(bin('playwright'), ['test'], { env, beside: false }))
    }
    return found.tell() ? 0 : 1
  })
}

/** Runs a command and tells its exit status. What runs beside another is heard when it ends: the two do not talk into each other. */
async function runBeside(command, args, env, beside, running) {
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
