import { SignInRequest } from '#shared/requests'
import { signIn } from '../../services/accounts'

export default defineRoute({ access: 'everybody', body: SignInRequest, handle: async ({ event, body }) => {
  const account = await signIn(useDatabase(), body.username, body.password)
  await replaceUserSession(event, { user: account })
  return account
} })
