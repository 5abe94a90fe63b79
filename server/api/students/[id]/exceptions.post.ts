import { ExceptionRequest } from '#shared/requests'
import { Refusal } from '../../../services/errors'
import { grantException } from '../../../services/requirements'

export default defineRoute({ access: 'student file', body: ExceptionRequest, handle: async ({ student, account, body }) => {
  if (account.role !== 'advisor') throw new Refusal(403, 'wrong-role', 'Only the advisor grants an exception.', 'Ask your advisor.')
  await grantException(useDatabase(), { student, advisor: account.id, ...body })
  return { ok: true }
} })
