import { SinceQuery } from '#shared/requests'
import { readPlanSince } from '../../../../../services/plans'

export default defineRoute({ access: 'student file', query: SinceQuery,
  handle: ({ event, student, query }) => readPlanSince(useDatabase(), student, planOf(event), query.since) })
