import { invite as declared } from '#shared/contract/acts/college'
import { invite } from '../acts/accounts'

export default serveAct(declared, invite)
