import { RegisterRequest } from '#shared/requests'
import { register } from '../../../services/registration'

export default defineRoute({ access: 'own file', body: RegisterRequest,
  handle: ({ student, account, body }) => register(useDatabase(), { student, actor: account.id, ...body }) })
