import { setUp as declared } from '#shared/contract/acts/college'
import { setUp } from '../acts/set-up'

export default serveBefore(declared, async ({ event, input, at }) => {
  const { person, secret } = await setUp(useDatabase(), input, at)
  await replaceUserSession(event, { secure: { session: secret } })
  return person
})
