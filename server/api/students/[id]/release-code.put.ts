import { enterReleaseCode as declared } from '#shared/contract/acts/student'
import { countCodeTry, enterReleaseCode } from '../../../acts/release'

/** Tries are counted in a transaction of their own: a wrong code undoes the other. */
export default serveOwn(declared, async (call) => {
  await useDatabase().write(tx => countCodeTry(tx, call.student))
  return actOn(declared, enterReleaseCode)(call)
})
