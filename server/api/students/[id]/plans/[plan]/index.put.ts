import { PlanChangeRequest } from '#shared/requests'
import { changePlan } from '../../../../../services/plans'

export default defineRoute({
  access: 'student file', body: PlanChangeRequest,
  handle: async ({ event, student, body }) => {
    await changePlan(useDatabase(), { student, plan: planOf(event), ...body })
    return { done: true }
  },
})
