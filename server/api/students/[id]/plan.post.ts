import { editPlan as declared } from '#shared/contract/acts/student'
import { editPlan } from '../../../acts/plans'

export default serveAct(declared, editPlan)
