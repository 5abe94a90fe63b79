import { makePlan as declared } from '#shared/contract/acts/student'
import { makePlan } from '../../../../acts/plans'

export default serveAct(declared, makePlan)
