import { comment as declared } from '#shared/contract/acts/student'
import { comment } from '../../../../acts/plans'

export default serveAct(declared, comment)
