import { MilestoneRequest } from '#shared/requests'
import { Refusal } from '../../../services/errors'
import { recordMilestone } from '../../../services/requirements'

export default defineRoute({ access: 'student file', body: MilestoneRequest, handle: async ({ student, account, body }) => {
  if (account.role !== 'advisor') throw new Refusal(403, 'wrong-role', 'Only the advisor records a milestone.', 'Ask your advisor.')
  await recordMilestone(useDatabase(), { student, advisor: account.id, ...body })
  return { ok: true }
} })
