import { spawn, spawnSync } from 'node:child_process'
import { cpSync, existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { STATE } from './machine.mjs'

/** What keeps a college and brings it back. */
export const CLIENT = [{ command: 'mariadb-dump', name: 'mariadb-client' }, { command: 'mariadb-binlog', name: 'mariadb-client' },
  { command: 'mariadb', name: 'mariadb-client-core' }]
/** What a node needs from Debian: the server with its state transfer, the cluster's library, and what a transfer dumps with. */
export const GALERA = [{ command: 'wsrep_sst_mysqldump', name: 'mariadb-server' }, { command: 'mariadb-dump', name: 'mariadb-client' },
  { file: '/usr/lib/galera/libgalera_smm.so', name: 'galera-4' }]

const PROVIDER = '/usr/lib/galera/libgalera_smm.so'
/** Nodes of one cluster: with two the survivor of a failure could not know that it is the one that goes on. */
const NODES = 3
/**
 * How soon a node that is not heard of is left out, and how fast the others agree on going on without it: in one room a second is long.
 * With the library's own times people wait six seconds; with these one, and less than one when a node that hung comes back.
 */
const TIMES = 'evs.suspect_timeout=PT0.8S;evs.inactive_timeout=PT3S;evs.keepalive_period=PT0.2S;evs.inactive_check_period=PT0.1S;'
  + 'evs.install_timeout=PT3S;evs.join_retrans_period=PT0.2S'
/** Between nodes on this machine alone; nobody else reaches their ports. */
const TRANSFER = 'transfer:transfer'

const path = { ...process.env, PATH: `${process.env.PATH}:/usr/sbin` }
const asRoot = process.getuid() === 0 ? ['--user=root'] : []
const pause = milliseconds => new Promise(again => setTimeout(again, milliseconds))

/** An empty data directory with the account by which nodes hand over their state. */
function makeData(folder) {
  const made = spawnSync('mariadb-install-db', ['--no-defaults', `--datadir=${folder}`, '--auth-root-authentication-method=normal',
    '--skip-test-db', ...asRoot], { stdio: 'ignore', env: path })
  if (made.status !== 0) throw new Error('a data directory could not be made: mariadb-install-db failed')
  const [user, password] = TRANSFER.split(':')
  spawnSync('mariadbd', ['--no-defaults', `--datadir=${folder}`, '--bootstrap', ...asRoot], { env: path,
    input: ['FLUSH PRIVILEGES;', `CREATE USER '${user}'@'%' IDENTIFIED BY '${password}';`, `GRANT ALL ON *.* TO '${user}'@'%';`,
      ''].join('\n') })
}

class Node {
  process = null
  exited = true

  constructor(name, index, port, group, all) {
    this.index = index
    this.port = port
    this.group = group
    this.all = all
    this.folder = join(STATE, `${name}-${index + 1}`)
    this.log = join(STATE, `${name}-${index + 1}.log`)
  }

  /** `isFirst` begins the cluster anew; any other node asks those that are there for what it missed. */
  async start(isFirst = false, tries = 3) {
    if (!existsSync(join(this.folder, 'mysql'))) makeData(this.folder)
    const options = this.options()
    this.exited = false
    this.process = spawn('mariadbd', [...options, ...this.position(options), ...isFirst ? ['--wsrep-new-cluster'] : []],
      { stdio: 'ignore', env: path, detached: true })
    this.process.once('exit', () => this.exited = true)
    for (let attempt = 0; ; attempt++) {
      if (await this.state() === 'Synced') return
      // One that could not join ends by itself; whoever looks after databases starts it again, as a service manager does.
      if (this.exited && tries > 1) return this.start(isFirst, tries - 1)
      if (this.exited || attempt > 300) throw new Error(`node ${this.index + 1} did not join; its log is ${this.log}`)
      await pause(200)
    }
  }

  /** After a kill the node's own log tells how far it came, so that it asks for what it missed and not for everything. */
  position(options) {
    if (!existsSync(join(this.folder, 'grastate.dat'))) return []
    const said = spawnSync('mariadbd', [...options.filter(one => !one.startsWith('--log-error')), '--wsrep-recover'],
      { env: path, encoding: 'utf8' }).stderr
    const found = /Recovered position:? ([0-9a-f-]{36}:-?\d+)/.exec(said)
    return found && !found[1].endsWith(':-1') ? [`--wsrep-start-position=${found[1]}`] : []
  }

  options() {
    const here = '127.0.0.1'
    return ['--no-defaults', `--datadir=${this.folder}`, `--port=${this.port}`, `--bind-address=${here}`,
      `--socket=${join(this.folder, 's.sock')}`, `--pid-file=${join(this.folder, 'pid')}`, `--log-error=${this.log}`,
      '--character-set-server=utf8mb4', '--collation-server=utf8mb4_unicode_ci', '--max-connections=300',
      '--innodb-buffer-pool-size=256M', '--binlog-format=ROW', '--innodb-autoinc-lock-mode=2', '--wsrep-on=ON',
      `--wsrep-provider=${PROVIDER}`, `--wsrep-cluster-address=gcomm://${this.all.map(port => `${here}:${port}`).join(',')}`,
      `--wsrep-node-name=node${this.index + 1}`, `--wsrep-node-address=${here}:${this.group}`,
      `--wsrep-node-incoming-address=${here}:${this.port}`, '--wsrep-sst-method=mysqldump', `--wsrep-sst-auth=${TRANSFER}`,
      `--wsrep-sst-receive-address=${here}:${this.port}`, '--wsrep-slave-threads=2',
      `--wsrep-provider-options=base_host=${here};base_port=${this.group};gmcast.listen_addr=tcp://${here}:${this.group};`
      + `ist.recv_addr=${here}:${this.group + 1};gcache.size=64M;gcache.recover=yes;pc.recovery=FALSE;${TIMES}`, ...asRoot]
  }

  /** `Synced`, `Joining` and the like as the node says it, or null when it does not answer within a second. */
  async state() {
    const { default: mysql } = await import('mysql2/promise')
    let connection
    try {
      connection = await mysql.createConnection({ host: '127.0.0.1', port: this.port, user: 'root', connectTimeout: 1000 })
      const asked = connection.query('SHOW STATUS WHERE Variable_name IN (\'wsrep_local_state_comment\', \'wsrep_cluster_status\')')
      asked.catch(() => {})
      const found = await Promise.race([asked, pause(1000)])
      if (!found) return null
      const said = Object.fromEntries(found[0].map(row => [row.Variable_name, row.Value]))
      return said.wsrep_cluster_status === 'Primary' ? said.wsrep_local_state_comment : `${said.wsrep_cluster_status}`
    }
    catch {
      return null
    }
    finally {
      connection?.destroy()
    }
  }

  signal(name) {
    return this.process?.kill(name) ?? false
  }

  async stop(signal = 'SIGTERM') {
    if (this.exited) return
    const ended = new Promise(done => this.process.once('exit', done))
    // One that was frozen would not hear of it.
    this.process.kill('SIGCONT')
    this.process.kill(signal)
    await ended
  }
}

/**
 * So many ports one after the other that are free, below those that this machine gives to connections that go out: a node that is started
 * again must find its own still free.
 */
async function freePorts(count, taken) {
  for (;;) {
    const first = 20_000 + Math.floor(Math.random() * 12_000)
    const wanted = Array.from({ length: count }, (_, i) => first + i)
    if (wanted.some(port => taken.has(port))) continue
    const free = await Promise.all(wanted.map(isFree))
    if (!free.every(Boolean)) continue
    for (const port of wanted) taken.add(port)
    return wanted
  }
}
async function isFree(port) {
  const { createServer } = await import('node:net')
  return new Promise((done) => {
    const probe = createServer().once('error', () => done(false)).listen(port, '127.0.0.1', () => probe.close(() => done(true)))
  })
}

/** Three MariaDB nodes on loopback that hold the same; a fresh one begins empty. */
export async function startCluster(name, { fresh = false } = {}) {
  mkdirSync(STATE, { recursive: true })
  const folders = Array.from({ length: NODES }, (_, i) => join(STATE, `${name}-${i + 1}`))
  if (fresh) for (const folder of folders) rmSync(folder, { recursive: true, force: true })
  if (!existsSync(join(folders[0], 'mysql'))) {
    makeData(folders[0])
    for (const folder of folders.slice(1)) cpSync(folders[0], folder, { recursive: true })
  }
  const groups = []
  const ports = []
  const taken = new Set()
  for (let i = 0; i < NODES; i++) {
    // People's, the group's own, and the one at which a node that comes back receives what it missed.
    const [port, group] = await freePorts(3, taken)
    ports.push(port)
    groups.push(group)
  }
  const nodes = groups.map((group, i) => new Node(name, i, ports[i], group, groups))
  const first = mostAhead(nodes)
  await first.start(true)
  for (const node of nodes) if (node !== first) await node.start()
  return {
    nodes,
    url: database => `mysql://root@${ports.map(port => `127.0.0.1:${port}`).join(',')}/${database}`,
    /** Makes a database where there is none of that name. */
    ensure: async (database) => {
      const { default: mysql } = await import('mysql2/promise')
      const connection = await mysql.createConnection({ host: '127.0.0.1', port: first.port, user: 'root' })
      await connection.query(`CREATE DATABASE IF NOT EXISTS \`${database}\` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`)
      await connection.end()
    },
    stop: async () => {
      // The last one to go knows most, and begins next time.
      for (const node of [...nodes].reverse()) await node.stop()
    },
  }
}

/** The node that came furthest before all of them were stopped: the others take what they missed from it. */
function mostAhead(nodes) {
  const reached = node => existsSync(join(node.folder, 'grastate.dat'))
    ? Number(node.position(node.options())[0]?.split(':').at(-1) ?? /seqno:\s*(-?\d+)/
        .exec(readFileSync(join(node.folder, 'grastate.dat'), 'utf8'))?.[1] ?? -1)
    : -1
  const at = nodes.map(reached)
  return nodes[at.indexOf(Math.max(...at))]
}
