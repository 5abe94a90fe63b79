import { endWatches } from '../views/news'

/** A server that is told to stop lets go of the pages that listen for news; everything else is given its time. */
export default defineNitroPlugin(() => {
  for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, endWatches)
})
