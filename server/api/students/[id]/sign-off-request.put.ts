import { returnPlan as declared } from '#shared/contract/acts/advising'
import { returnPlan } from '../../../acts/release'

export default serveAct(declared, returnPlan)
