import { NewPlanRequest } from '#shared/requests'
import { addPlan } from '../../../../services/plans'

export default defineRoute({ access: 'student file', body: NewPlanRequest,
  handle: ({ student, body }) => addPlan(useDatabase(), { student, ...body }) })
