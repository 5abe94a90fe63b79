import { signIn as declared } from '#shared/contract/acts/college'
import { signIn } from '../../acts/accounts'

export default serveOwn(declared, async ({ event, input }) => {
  const { person, secret } = await signIn(useDatabase(), { ...input, address: addressOf(event),
    knownDevice: isKnownDevice(event, input.username), at: new Date().toISOString() })
  await replaceUserSession(event, { secure: { session: secret } })
  rememberDevice(event, person.username)
  return person
})
