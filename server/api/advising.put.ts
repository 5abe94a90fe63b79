import { setAdvising as declared } from '#shared/contract/acts/college'
import { setAdvising } from '../acts/college'

export default serveAct(declared, setAdvising)
