import { endDeputy as declared } from '#shared/contract/acts/advising'
import { endDeputy } from '../acts/handing-over'

export default serveAct(declared, endDeputy)
