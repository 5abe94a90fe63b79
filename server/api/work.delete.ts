import { cancelWork as declared } from '#shared/contract/acts/college'
import { DONE } from '#shared/contract/define'
import { cancelWork } from '../db/store/long-works'

export default serveOwn(declared, async ({ input }) => {
  await useDatabase().write(tx => cancelWork(tx, input.id))
  return DONE
})
