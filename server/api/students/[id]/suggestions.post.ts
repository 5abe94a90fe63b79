import { suggest as declared } from '#shared/contract/acts/advising'
import { suggest } from '../../../acts/review'

export default serveAct(declared, suggest)
