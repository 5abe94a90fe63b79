import { endFeed as declared } from '#shared/contract/acts/student'
import { endFeed } from '../../../acts/week'

export default serveAct(declared, endFeed)
