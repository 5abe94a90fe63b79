import { setCollege as declared } from '#shared/contract/acts/college'
import { setCollege } from '../../acts/settings'

export default serveAct(declared, setCollege)
