import { currentInstant } from '../../services/clock'
import { loadCollege } from '../../services/catalog'

/** Who is signed in, and what time it is. */
export default defineRoute({ access: 'signed in', handle: async ({ account }) => {
  const db = useDatabase()
  return { account, now: await currentInstant(db), zone: (await loadCollege(db)).zone, demo: process.env.RIDGEWAY_DEMO === '1' }
} })
