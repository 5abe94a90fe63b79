import { cancelMeeting as declared } from '#shared/contract/acts/advising'
import { cancelMeeting } from '../../../acts/meetings'

export default serveAct(declared, cancelMeeting)
