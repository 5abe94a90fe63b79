import { makeReleaseCode as declared } from '#shared/contract/acts/student'
import { makeReleaseCode } from '../../../acts/release'

export default serveAct(declared, makeReleaseCode)
