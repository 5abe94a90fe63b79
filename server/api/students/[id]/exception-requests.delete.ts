import { takeBackAsked as declared } from '#shared/contract/acts/advising'
import { takeBackAsked } from '../../../acts/exceptions'

export default serveAct(declared, takeBackAsked)
