import { currentInstant } from '../../services/clock'

export default defineRoute({ access: 'signed in', demo: true, handle: async () => ({ now: await currentInstant(useDatabase()) }) })
