import '#nitro-internal-pollyfills'
import { Server } from 'node:http'
import { createServer } from 'node:net'
import { setTimeout as wait } from 'node:timers/promises'
import { toNodeListener } from 'h3'
import { useNitroApp } from 'nitropack/runtime'
import { placesIn } from '../db/failures'
import { closeDatabases } from '../utils/database'
import { useLog } from '../utils/log'
import { beginStopping, endStreams, isStopping } from '../utils/stopping'

/** Milliseconds that what is under way is given when the server stops. */
const GRACE_MS = 20_000
/** Milliseconds for which it serves on as before, but says that it is not ready, so that nobody is sent to it any more. */
const DRAIN_MS = Number(process.env.RIDGEWAY_DRAIN_SECONDS ?? 0) * 1000

/**
 * Connections that may wait to be taken, as many as the system allows. With Node's 511 the first packets of those who come in the second of
 * an opening are dropped, and sent again only after one, three and seven seconds.
 */
const BACKLOG = 4096

/**
 * How many times whoever started this server gave it the socket on which it listens, from its third file on; none where it opens its own.
 * Node takes one new connection from each in a turn of its loop, and in the rush of an opening these turns are long.
 */
const SOCKETS = Number(process.env.RIDGEWAY_SOCKETS ?? 0)
const FIRST_SOCKET = 3
delete process.env.RIDGEWAY_SOCKETS

/**
 * Milliseconds for which a connection is kept that nobody asks on: longer than a proxy in front keeps it (a minute, common practice, no
 * source), so that it is never cut while the proxy sends, and people who wait on a page for the opening need no new one for their press.
 */
const KEPT_MS = 65_000

const nitro = useNitroApp()
const log = useLog()
const server = new Server({ keepAliveTimeout: KEPT_MS }, toNodeListener(nitro.h3App))
/** Its other ears, with the options that a server of HTTP has: what they take is the server's as well. */
const listeners = Array.from({ length: Math.max(0, SOCKETS - 1) }, () =>
  createServer({ allowHalfOpen: true, noDelay: true }, socket => server.emit('connection', socket)))
const listening = () => log.info('listening')
if (SOCKETS > 0) server.listen({ fd: FIRST_SOCKET }, BACKLOG, listening)
else server.listen({ port: Number(process.env.PORT) || 3000, host: process.env.HOST || '127.0.0.1', backlog: BACKLOG }, listening)
for (const [i, listener] of listeners.entries()) listener.listen({ fd: FIRST_SOCKET + 1 + i }, BACKLOG)
for (const one of [server, ...listeners]) {
  one.once('error', (problem: NodeJS.ErrnoException) => {
    log.fatal({ code: problem.code }, 'cannot listen')
    process.exit(1)
  })
}
// What nobody waits for any more must not end what others wait for.
process.on('unhandledRejection', problem => log.error({ where: whereOf(problem) }, 'unhandled rejection'))
process.on('uncaughtException', problem => log.error({ where: whereOf(problem) }, 'uncaught exception'))
// Where it stops, an answer is the last on its connection: the next request goes to another server.
nitro.hooks.hook('request', (event) => {
  if (isStopping()) event.node.res.setHeader('Connection', 'close')
})

/** What kind of problem, and where in the code it happened. */
const whereOf = (problem: unknown) => [problem instanceof Error ? problem.constructor.name : typeof problem, ...placesIn(problem)]

/** Takes no more, answers what it took, ends what goes on by itself, lets go of the database. */
async function stop() {
  beginStopping()
  log.info('stopping')
  await wait(DRAIN_MS)
  const answered = Promise.all([server, ...listeners].map(one => new Promise<void>(done => one.close(() => done()))))
  endStreams()
  server.closeIdleConnections()
  const timer = setInterval(() => server.closeIdleConnections(), 50)
  const background = nitro.hooks.callHook('close')
  const isDone = await Promise.race([Promise.all([answered, background]).then(() => true), wait(GRACE_MS, false)])
  clearInterval(timer)
  if (!isDone) server.closeAllConnections()
  await Promise.race([closeDatabases(), wait(1000)])
  log.info({ isDone }, 'stopped')
  process.exit(0)
}

for (const signal of ['SIGTERM', 'SIGINT'] as const) {
  process.on(signal, () => {
    // Whoever says it twice does not want to wait.
    if (isStopping()) process.exit(1)
    void stop()
  })
}
