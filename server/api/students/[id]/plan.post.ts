import { PlanEditRequest } from '#shared/requests'
import { editPlan } from '../../../services/plans'

export default defineRoute({ access: 'student file', body: PlanEditRequest,
  handle: ({ student, account, body }) => editPlan(useDatabase(), { student, actor: account.id, ...body }) })
