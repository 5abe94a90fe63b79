import { makeToken as declared } from '#shared/contract/acts/tokens'
import { makeToken } from '../acts/tokens'

export default serveAct(declared, makeToken)
