import { markRead as declared } from '#shared/contract/acts/advising'
import { markRead } from '../../../../acts/review'

export default serveAct(declared, markRead)
