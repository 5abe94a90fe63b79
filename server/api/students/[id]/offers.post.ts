import { takeOffer as declared } from '#shared/contract/acts/student'
import { takeOffer } from '../../../acts/change'

export default serveAct(declared, takeOffer)
