import { nameDeputy as declared } from '#shared/contract/acts/advising'
import { nameDeputy } from '../acts/handing-over'

export default serveAct(declared, nameDeputy)
