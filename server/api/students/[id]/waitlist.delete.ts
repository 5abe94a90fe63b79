import { leaveWaitlist as declared } from '#shared/contract/acts/student'
import { leaveWaitlist } from '../../../acts/change'

export default serveAct(declared, leaveWaitlist)
