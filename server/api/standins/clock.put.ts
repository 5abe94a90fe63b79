import { ClockRequest } from '#shared/requests'
import { setClock } from '../../services/clock'

export default defineRoute({ access: 'signed in', demo: true, body: ClockRequest, handle: async ({ body }) => {
  await setClock(useDatabase(), new Date(body.now).toISOString())
  return { now: body.now }
} })
