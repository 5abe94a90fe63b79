import { ProgramFileRequest } from '#shared/requests'
import { loadProgramFile } from '../services/programs'

export default defineRoute({ access: 'office', body: ProgramFileRequest,
  handle: ({ account, body }) => loadProgramFile(useDatabase(), { actor: account.id, ...body }) })
