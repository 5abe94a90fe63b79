import { liftRule as declared } from '#shared/contract/acts/student'
import { liftRule } from '../../../acts/lifted'

export default serveAct(declared, liftRule)
