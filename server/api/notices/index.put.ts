import { readNotices as declared } from '#shared/contract/acts/advising'
import { readNotices } from '../../acts/notices'

export default serveAct(declared, readNotices)
