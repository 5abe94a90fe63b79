import { settleThread as declared } from '#shared/contract/acts/advising'
import { settleThread } from '../../../../acts/review'

export default serveAct(declared, settleThread)
