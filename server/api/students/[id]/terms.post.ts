import { acceptTerms as declared } from '#shared/contract/acts/student'
import { acceptTerms } from '../../../acts/release'

export default serveAct(declared, acceptTerms)
