import { grantException as declared } from '#shared/contract/acts/student'
import { grantException } from '../../../acts/requirements'

export default serveAct(declared, grantException)
