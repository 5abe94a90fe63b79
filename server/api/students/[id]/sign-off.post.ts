import { signOff as declared } from '#shared/contract/acts/student'
import { signOff } from '../../../acts/release'

export default serveAct(declared, signOff)
