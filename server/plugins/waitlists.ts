import { serveWaitlists } from '../acts/offers'
import { announce } from '../views/news'

/** How often waitlists are looked at: seats come free on any server, and offers end by themselves. */
const EVERY_MS = 1000

/** Every server serves the waitlists beside its other work; a database that does not answer is asked again at the next turn. */
export default defineNitroPlugin((nitro) => {
  let timer: ReturnType<typeof setTimeout> | null = null
  let stopped = false
  async function serve() {
    try {
      for (const student of await serveWaitlists(useDatabase(), useKeptCollege())) announce(student)
    }
    catch { /* the next turn tries again */ }
    if (!stopped) timer = setTimeout(serve, EVERY_MS)
  }
  timer = setTimeout(serve, EVERY_MS)
  nitro.hooks.hook('close', () => {
    stopped = true
    if (timer) clearTimeout(timer)
  })
})
