import { beginTrace } from '../db/trace'

/** Milliseconds from which on a request is slow: what it waited for is told, and kept for the office's page. */
const SLOW_MS = Number(process.env.RIDGEWAY_SLOW_MS ?? 1000)

/** Every request is timed until its answer has gone out; pages that listen stay open and are counted apart. */
export default defineNitroPlugin((nitro) => {
  const metrics = useMetrics()
  const log = useLog()
  nitro.hooks.hook('request', (event) => {
    // A hook has a context of its own: the route takes the trace up again.
    const trace = event.context.trace = beginTrace()
    event.node.res.once('close', () => {
      const { res } = event.node
      if (String(res.getHeader('content-type') ?? '').startsWith('text/event-stream')) return
      // What no route of the API takes is a page or one of its files.
      const matched = event.context.matchedRoute?.path
      const route = matched && matched !== '/**' ? matched : 'pages and files'
      const ms = performance.now() - trace.begun
      metrics.answered({ method: event.method, route, status: res.statusCode }, ms / 1000)
      if (ms < SLOW_MS) return
      const slow = { at: new Date().toISOString(), method: event.method, route, status: res.statusCode, ms: Math.round(ms),
        spans: [...trace.spans] }
      metrics.keepSlow(slow)
      log.warn(slow, 'slow request')
    })
  })
})
