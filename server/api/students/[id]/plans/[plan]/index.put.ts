import { changePlan as declared } from '#shared/contract/acts/student'
import { changePlan } from '../../../../../acts/plans'

export default serveAct(declared, changePlan)
