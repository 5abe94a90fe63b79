import { spawn, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, rmSync, utimesSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { join, resolve } from 'node:path'

export const ROOT = resolve(import.meta.dirname, '../..')
export const STATE = join(ROOT, '.ridgeway')

const has = command =>
  spawnSync('sh', ['-c', `command -v ${command}`], { stdio: 'ignore', env: { ...process.env, PATH: `${process.env.PATH}:/usr/sbin` } })
    .status === 0

/** Runs a command to its end, with its output shown. Throws when it fails, so that what was started before is stopped. */
export function run(command, args, options = {}) {
  const done = spawnSync(command, args, { cwd: ROOT, stdio: 'inherit', ...options, env: { ...process.env, ...options.env } })
  if (done.status !== 0 && !options.mayFail) {
    throw new Error(`${command} ${args.join(' ')} failed`)
  }
  return done.status ?? 1
}

/** A command that a package of ours brings. */
export const bin = name => join(ROOT, 'node_modules', '.bin', name)

/** Runs what takes a while, with the seconds counted beside its words; what it wrote is shown only when it failed. Throws then. */
async function runLong(words, command, args, env = {}) {
  const began = Date.now()
  const shows = process.stdout.isTTY
  const say = (ending = '') => `${words}${ending || ' …'} ${Math.round((Date.now() - began) / 1000)} s`
  if (!shows) console.log(words)
  const timer = shows && setInterval(() => process.stdout.write(`\r${say()}`), 1000)
  const child = spawn(command, args, { cwd: ROOT, env: { ...process.env, ...env } })
  let written = ''
  for (const stream of [child.stdout, child.stderr]) stream.on('data', part => written += part)
  const code = await new Promise((done, fail) => child.once('error', fail).once('close', done))
  clearInterval(timer)
  if (shows) process.stdout.write(`\r${say(code === 0 ? ': done,' : ': failed after')}\n`)
  if (code === 0) return
  console.error(written)
  throw new Error(`${words} failed; what it said stands above`)
}

/** Does something while no other command of ours in this folder does the same. */
async function alone(what, work) {
  mkdirSync(STATE, { recursive: true })
  const lock = join(STATE, `${what}.lock`)
  for (let told = false; ; told = true) {
    try {
      writeFileSync(lock, String(process.pid), { flag: 'wx' })
      break
    }
    catch (problem) {
      if (problem.code !== 'EEXIST') throw problem
      if (!isRunning(Number(readFileSync(lock, 'utf8')))) rmSync(lock, { force: true })
      else if (!told) console.log('Another command is at it; waiting for it')
      await new Promise(again => setTimeout(again, 500))
    }
  }
  try {
    return await work()
  }
  finally {
    rmSync(lock, { force: true })
  }
}
function isRunning(pid) {
  try {
    return pid > 0 && process.kill(pid, 0)
  }
  catch {
    return false
  }
}

/** Debian packages that are missing are named and installed. */
export function ensurePackages(wanted) {
  const missing = wanted.filter(({ command, file }) => file ? !existsSync(file) : !has(command)).map(({ name }) => name)
  if (missing.length === 0) return
  if (!has('apt-get')) {
    console.error(
      `Ridgeway needs ${missing.join(', ')}, and there is no apt-get here to install them with. Install them and run this again.`,
    )
    process.exit(1)
  }
  const root = process.getuid() === 0
  if (!root && !has('sudo')) {
    console.error(`Ridgeway needs ${missing.join(', ')}. Run "apt-get install ${missing.join(' ')}" as root, then run this again.`)
    process.exit(1)
  }
  console.log(`Installing from Debian: ${missing.join(', ')}`)
  const apt = args =>
    run(root ? 'apt-get' : 'sudo', [...(root ? [] : ['apt-get']), ...args], { stdio: ['ignore', 'ignore', 'inherit'],
      env: { DEBIAN_FRONTEND: 'noninteractive' } })
  apt(['update', '-q'])
  // A package that brings a service of the whole machine must not start it: databases here are our own, and stopped with us.
  const policy = '/usr/sbin/policy-rc.d'
  const holds = root && !existsSync(policy)
  if (holds) writeFileSync(policy, '#!/bin/sh\nexit 101\n', { mode: 0o755 })
  try {
    apt(['install', '-y', '-q', '--no-install-recommends', ...missing])
  }
  finally {
    if (holds) rmSync(policy, { force: true })
  }
}

export const MARIADB = [{ command: 'my_print_defaults', name: 'mariadb-client-core' }, { command: 'mariadbd', name: 'mariadb-server-core' },
  { command: 'mariadb-install-db', name: 'mariadb-server-core' }]
export const CHROMIUM = [{ command: 'chromium', name: 'chromium' }]

/** `npm ci` when the lock file changed since the last time. */
export const ensureModules = () =>
  alone('install', async () => {
    const lock = createHash('sha256').update(readFileSync(join(ROOT, 'package-lock.json'))).digest('hex')
    const mark = join(ROOT, 'node_modules', '.ridgeway-lock')
    if (existsSync(mark) && readFileSync(mark, 'utf8') === lock) return
    const words = 'Installing packages, about a minute'
    // A registry that lacks a package for some other platform makes "npm ci" refuse a lock file that is right for this one.
    await runLong(words, 'npm', ['ci']).catch(() => runLong(words, 'npm', ['install', '--no-save']))
    writeFileSync(mark, lock)
  })

const BUILT_FROM = 'app server shared packages tools/build nuxt.config.ts package-lock.json'
/** Builds the server when a source file is newer than the last build. */
export const ensureBuild = () =>
  alone('build', async () => {
    const sources = spawnSync('sh', ['-c', `find ${BUILT_FROM} -type f -newer .output/nitro.json 2>/dev/null | head -1`],
      { cwd: ROOT, encoding: 'utf8' }).stdout
    if (existsSync(join(ROOT, '.output/nitro.json')) && sources === '') return
    const begun = new Date()
    await runLong('Building, about half a minute', bin('nuxt'), ['build'], { NODE_ENV: 'production' })
    // What was changed while it was built may not be in it.
    utimesSync(join(ROOT, '.output/nitro.json'), begun, begun)
  })

export function freePort() {
  return new Promise((done, fail) => {
    const server = createServer()
    server.once('error', fail)
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address()
      server.close(() => done(port))
    })
  })
}

/** A MariaDB of our own on loopback, its data under .ridgeway/; stopped by the function that comes back. */
export async function startDatabase(name, wantedPort = 0, options = []) {
  mkdirSync(STATE, { recursive: true })
  const data = join(STATE, name)
  const asRoot = process.getuid() === 0 ? ['--user=root'] : []
  const path = { ...process.env, PATH: `${process.env.PATH}:/usr/sbin` }
  if (!existsSync(join(data, 'mysql'))) {
    run('mariadb-install-db', ['--no-defaults', `--datadir=${data}`, '--auth-root-authentication-method=normal', '--skip-test-db',
      ...asRoot], { stdio: 'ignore', env: path })
  }
  const port = wantedPort || await freePort()
  const log = join(STATE, `${name}.log`)
  const server = spawn('mariadbd', ['--no-defaults', `--datadir=${data}`, `--port=${port}`, '--bind-address=127.0.0.1',
    `--socket=${join(data, 's.sock')}`, `--pid-file=${join(data, 'pid')}`, `--log-error=${log}`, '--character-set-server=utf8mb4',
    '--collation-server=utf8mb4_unicode_ci', '--max-connections=300', '--innodb-buffer-pool-size=256M', ...options, ...asRoot],
  { stdio: 'ignore', env: path, detached: true })
  let exited = false
  server.once('exit', () => exited = true)
  const { default: mysql } = await import('mysql2/promise')
  for (let attempt = 0; ; attempt++) {
    try {
      const probe = await mysql.createConnection({ host: '127.0.0.1', port, user: 'root' })
      await probe.end()
      break
    }
    catch (problem) {
      if (exited || attempt > 150) throw new Error(`MariaDB did not start; its log is ${log}`, { cause: problem })
      await new Promise(again => setTimeout(again, 200))
    }
  }
  return {
    port,
    url: database => `mysql://root@127.0.0.1:${port}/${database}`,
    create: async (database, fresh = false) => {
      const connection = await mysql.createConnection({ host: '127.0.0.1', port, user: 'root' })
      if (fresh) await connection.query(`DROP DATABASE IF EXISTS \`${database}\``)
      await connection.query(`CREATE DATABASE IF NOT EXISTS \`${database}\` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`)
      await connection.end()
    },
    /** Sends a signal, as a machine in trouble would: SIGSTOP, SIGCONT, SIGKILL. */
    signal: name => server.kill(name),
    stop: () =>
      new Promise((done) => {
        if (exited) return done()
        server.once('exit', () => done())
        server.kill('SIGTERM')
      }),
  }
}

/**
 * How many times a server holds the socket on which it listens. Node takes one new connection from each in a turn of its loop, and in the
 * rush of an opening these turns are long: with one alone, people who come then wait for seconds before the server hears of them.
 * In a morning of 20,000 thirty-two were too few.
 */
const SOCKETS = 128
/** Connections that may wait to be taken, as many as the system allows: with Node's 511 the first packets of a crowd are dropped. */
const BACKLOG = 4096

/** Starts a program that holds the listening socket of a port so many times, from its third file on; says why where the port is taken. */
function startListening(port, host, start) {
  return new Promise((done, fail) => {
    const listener = createServer()
    listener.once('error', problem => fail(problem.code === 'EADDRINUSE'
      ? new Error(`Port ${port} of ${host} is taken: another program listens there. Set PORT to one that is free.`)
      : problem))
    listener.listen({ port, host, backlog: BACKLOG }, () => {
      const child = start(new Array(SOCKETS).fill(listener._handle.fd))
      // In the same turn, so that nobody is taken here.
      listener.close()
      done(child)
    })
  })
}

/**
 * How the engine keeps its memory: what nobody needs any more is let go of after the heap has grown by two fifths, not when it has doubled
 * or more. A server of a college of 20,000 students then holds 360 instead of 530 megabytes at most while everybody's progress is worked
 * out, for a tenth of that work's speed.
 */
const ENGINE = ['--max-semi-space-size=8', '--heap-growing-percent=40']

/** The built server on a port, once it answers. Without a log it writes to this terminal. */
export async function startServer({ databaseUrl, port, host = '127.0.0.1', demo, log = '', env = {} }) {
  const { openSync } = await import('node:fs')
  const out = log ? openSync(log, 'w') : 'inherit'
  const child = await startListening(port, host, sockets => spawn('node', [...ENGINE, '.output/server/index.mjs'], {
    cwd: ROOT,
    stdio: ['ignore', out, out, ...sockets],
    env: {
      ...process.env,
      NODE_ENV: 'production',
      RIDGEWAY_SOCKETS: String(sockets.length),
      PORT: String(port),
      HOST: host,
      DATABASE_URL: databaseUrl,
      RIDGEWAY_DEMO: demo ? '1' : '',
      ...demo ? { RIDGEWAY_ADDRESS: `http://127.0.0.1:${port}` } : {},
      NUXT_SESSION_PASSWORD: process.env.NUXT_SESSION_PASSWORD ?? 'demo-only-secret-demo-only-secret-0',
      ...env,
    },
  }))
  let exited = false
  const ended = new Promise(done => child.once('exit', (code) => {
    exited = true
    done(code ?? 1)
  }))
  const address = `http://${['0.0.0.0', '::'].includes(host) ? '127.0.0.1' : host}:${port}`
  for (let attempt = 0; ; attempt++) {
    try {
      // Any answer will do: how it stands with the database is the server's to say.
      await fetch(`${address}/api/health`, { signal: AbortSignal.timeout(1000) })
      break
    }
    catch { /* not listening yet */ }
    if (exited || attempt > 150) throw new Error(`the server did not start${log ? `; its log is ${log}` : ''}`)
    await new Promise(again => setTimeout(again, 200))
  }
  return {
    address,
    /** Resolves with its exit code when it ends by itself. */
    ended,
    isReady: async () => (await fetch(`${address}/api/ready`)).ok,
    /** Ends it as a machine that fails does: nothing is put in order. */
    kill: async () => {
      if (!exited) child.kill('SIGKILL')
      await ended
    },
    stop: async () => {
      if (!exited) child.kill('SIGTERM')
      await ended
    },
  }
}
