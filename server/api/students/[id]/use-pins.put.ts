import { pinUse as declared } from '#shared/contract/acts/student'
import { pinUse } from '../../../acts/requirements'

export default serveAct(declared, pinUse)
