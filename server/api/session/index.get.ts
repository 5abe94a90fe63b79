import type { Account } from '../../services/accounts'
import { currentInstant } from '../../services/clock'
import { loadCollege } from '../../services/catalog'

/** Who is signed in (null for nobody), and what time it is. */
export default defineRoute({ access: 'everybody', handle: async ({ event }) => {
  const db = useDatabase()
  const { user } = await getUserSession(event)
  return { account: (user ?? null) as Account | null, now: await currentInstant(db), zone: (await loadCollege(db)).zone,
    demo: process.env.RIDGEWAY_DEMO === '1' }
} })
