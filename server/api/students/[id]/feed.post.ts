import { renewFeed as declared } from '#shared/contract/acts/student'
import { renewFeed } from '../../../acts/week'

export default serveAct(declared, renewFeed)
