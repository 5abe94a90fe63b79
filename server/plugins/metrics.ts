/** Every request is timed until its answer has gone out; pages that listen stay open and are counted apart. */
export default defineNitroPlugin((nitro) => {
  const metrics = useMetrics()
  nitro.hooks.hook('request', (event) => {
    const begun = performance.now()
    event.node.res.once('close', () => {
      const { res } = event.node
      if (String(res.getHeader('content-type') ?? '').startsWith('text/event-stream')) return
      // What no route of the API takes is a page or one of its files.
      const matched = event.context.matchedRoute?.path
      const route = matched && matched !== '/**' ? matched : 'pages and files'
      metrics.answered({ method: event.method, route, status: res.statusCode }, (performance.now() - begun) / 1000)
    })
  })
})
