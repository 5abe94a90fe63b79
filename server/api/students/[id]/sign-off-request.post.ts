import { askSignOff as declared } from '#shared/contract/acts/student'
import { askSignOff } from '../../../acts/release'

export default serveAct(declared, askSignOff)
