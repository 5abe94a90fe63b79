import { acceptInvitation as declared } from '#shared/contract/acts/college'
import { acceptInvitation } from '../acts/accounts'

export default serveOwn(declared, async ({ event, input }) => {
  const { person, secret } = await acceptInvitation(useDatabase(), { ...input, at: new Date().toISOString() })
  await replaceUserSession(event, { secure: { session: secret } })
  return person
})
