import { grantException as declared } from '#shared/contract/acts/student'
import { grantException } from '../../../acts/exceptions'

export default serveAct(declared, grantException)
