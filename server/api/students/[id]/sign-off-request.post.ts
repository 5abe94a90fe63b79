import { TermNote } from '#shared/requests'
import { askSignOff } from '../../../services/release'

export default defineRoute({ access: 'own file', body: TermNote, handle: async ({ student, body }) => {
  await askSignOff(useDatabase(), { student, ...body })
  return { ok: true }
} })
