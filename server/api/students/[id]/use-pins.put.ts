import { UsePinRequest } from '#shared/requests'
import { pinUse } from '../../../services/requirements'

export default defineRoute({ access: 'student file', body: UsePinRequest, handle: async ({ student, account, body }) => {
  await pinUse(useDatabase(), { student, actor: account.id, ...body })
  return { ok: true }
} })
