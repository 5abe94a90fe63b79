import { clearHolds as declared } from '#shared/contract/acts/office'
import { clearHolds } from '../acts/office'

export default serveAct(declared, clearHolds)
