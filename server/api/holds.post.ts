import { placeHolds as declared } from '#shared/contract/acts/office'
import { placeHolds } from '../acts/office'

export default serveAct(declared, placeHolds)
