import { readMetrics } from '#shared/contract/views/college'

export default serve(readMetrics, async ({ event }) => {
  const { registry } = useMetrics()
  setHeader(event, 'Content-Type', registry.contentType)
  return registry.metrics()
})
