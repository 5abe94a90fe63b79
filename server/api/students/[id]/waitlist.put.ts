import { decideOffer as declared } from '#shared/contract/acts/student'
import { decideOffer } from '../../../acts/change'

export default serveAct(declared, decideOffer)
