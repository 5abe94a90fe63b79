import { spawn } from 'node:child_process'
import { openSync } from 'node:fs'
import { bin, ROOT } from './machine.mjs'

/** Longest wait for the first answer, in milliseconds: everything is read and translated before it. */
const FIRST_ANSWER_MS = 180_000

/**
 * The server as one works on it: what is changed is there at once. Without a log it writes to this terminal. `onEnd` hears how it is
 * stopped as soon as it runs, before it answers.
 */
export async function startDeveloping({ databaseUrl, port, onEnd, log = '' }) {
  const out = log ? openSync(log, 'w') : 'inherit'
  const address = `http://127.0.0.1:${port}`
  const child = spawn(bin('nuxt'), ['dev', '--port', String(port), '--host', '127.0.0.1', '--no-fork'], {
    cwd: ROOT,
    stdio: ['ignore', out, out],
    env: { ...process.env, DATABASE_URL: databaseUrl, RIDGEWAY_DEMO: '1', RIDGEWAY_ADDRESS: address,
      NUXT_SESSION_PASSWORD: 'demo-only-secret-demo-only-secret-0' },
  })
  let exited = false
  const ended = new Promise(done => child.once('exit', (code) => {
    exited = true
    done(code ?? 1)
  }))
  const stop = () => {
    child.kill('SIGTERM')
    return ended
  }
  onEnd(stop)
  for (const begun = Date.now(); ; await new Promise(again => setTimeout(again, 200))) {
    const answer = await fetch(`${address}/api/health`, { signal: AbortSignal.timeout(5000) }).catch(() => null)
    if (answer?.ok) return { address, stop, ended }
    if (!exited && Date.now() - begun < FIRST_ANSWER_MS) continue
    await stop()
    throw new Error(`The server that is worked on did not start; ${log ? `its log is ${log}` : 'see above'}`)
  }
}

/**
 * Whether it works: the database answers through it, its page comes, and every script that the page begins with. Tells the exit status of
 * a check.
 */
export async function checkDeveloping(options) {
  let server
  try {
    server = await startDeveloping(options)
    const page = await (await fetch(server.address, { headers: { accept: 'text/html' } })).text()
    const scripts = [...page.matchAll(/<script[^>]* src="([^"]+)"/g)].map(([, source]) => source)
    if (scripts.length === 0) throw new Error(`Its page has no script: ${page}`)
    for (const path of [...scripts, '/api/ready']) {
      const { status } = await fetch(new URL(path, server.address))
      if (status !== 200) throw new Error(`${path} answers ${status}`)
    }
    return 0
  }
  catch (problem) {
    console.error(problem.message)
    return 1
  }
  finally {
    await server?.stop()
  }
}
