import { reassignAdvisor as declared } from '#shared/contract/acts/advising'
import { reassignAdvisor } from '../../../acts/handing-over'

export default serveAct(declared, reassignAdvisor)
