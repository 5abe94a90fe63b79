import { signOut as declared } from '#shared/contract/acts/college'
import { DONE } from '#shared/contract/define'
import { signOut } from '../../acts/accounts'

export default serveOwn(declared, async ({ event }) => {
  const session = await sessionOf(event)
  if (session) await signOut(useDatabase(), session)
  await clearUserSession(event)
  return DONE
})
