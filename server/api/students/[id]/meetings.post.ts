import { bookMeeting as declared } from '#shared/contract/acts/advising'
import { bookMeeting } from '../../../acts/meetings'

export default serveAct(declared, bookMeeting)
