import { setRegistration as declared } from '#shared/contract/acts/college'
import { setRegistration } from '../acts/college'

export default serveAct(declared, setRegistration)
