import { recordMilestone as declared } from '#shared/contract/acts/student'
import { recordMilestone } from '../../../acts/requirements'

export default serveAct(declared, recordMilestone)
