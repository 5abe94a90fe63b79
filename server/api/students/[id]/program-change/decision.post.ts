import { ProgramDecision } from '#shared/requests'
import { Refusal } from '../../../../services/errors'
import { decideProgramChange } from '../../../../services/program-change'

export default defineRoute({ access: 'student file', body: ProgramDecision, handle: async ({ student, account, body }) => {
  if (account.role !== 'advisor') throw new Refusal(403, 'wrong-role', 'Only the advisor answers a change of program.', 'Ask your advisor.')
  await decideProgramChange(useDatabase(), { student, advisor: account.id, ...body })
  return { ok: true }
} })
