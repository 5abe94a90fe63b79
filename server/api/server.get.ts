import { readServer } from '#shared/contract/views/college'
import { openWatches } from '../views/news'

export default serveView(readServer, async () => {
  const metrics = useMetrics()
  // Both are gathered anew for every answer.
  const lag = (await metrics.registry.getSingleMetric('nodejs_eventloop_lag_p99_seconds')?.get())?.values[0]?.value ?? 0
  return { up: Math.round(process.uptime()), pages: openWatches(), memory: process.memoryUsage().rss, lag: Math.round(lag * 1000),
    routes: await metrics.routes(), nodes: useDatabase().states(),
    slow: [...metrics.slowLately()] }
})
