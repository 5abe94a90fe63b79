import { liftRule as declared } from '#shared/contract/acts/student'
import { liftRule } from '../../../acts/exceptions'

export default serveAct(declared, liftRule)
