import { ExceptionQuery } from '#shared/requests'
import { Refusal } from '../../../services/errors'
import { takeBackException } from '../../../services/requirements'

export default defineRoute({ access: 'student file', query: ExceptionQuery, handle: async ({ student, account, query }) => {
  if (account.role !== 'advisor') throw new Refusal(403, 'wrong-role', 'Only the advisor takes an exception back.', 'Ask your advisor.')
  await takeBackException(useDatabase(), { student, advisor: account.id, id: query.id })
  return { ok: true }
} })
