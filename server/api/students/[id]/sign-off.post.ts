import { TermNote } from '#shared/requests'
import { Refusal } from '../../../services/errors'
import { signOff } from '../../../services/release'

export default defineRoute({ access: 'student file', body: TermNote, handle: async ({ student, account, body }) => {
  if (account.role !== 'advisor') throw new Refusal(403, 'wrong-role', 'Only the advisor signs off a term.', 'Ask for sign-off under Now.')
  await signOff(useDatabase(), { student, advisor: account.id, ...body })
  return { ok: true }
} })
