import { ProgramChangeRequest } from '#shared/requests'
import { askProgramChange } from '../../../../services/program-change'

export default defineRoute({ access: 'own file', body: ProgramChangeRequest, handle: async ({ student, body }) => {
  await askProgramChange(useDatabase(), { student, ...body })
  return { ok: true }
} })
