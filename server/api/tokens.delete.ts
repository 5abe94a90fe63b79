import { revokeToken as declared } from '#shared/contract/acts/tokens'
import { revokeToken } from '../acts/tokens'

export default serveAct(declared, revokeToken)
