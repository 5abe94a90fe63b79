import { changeRegistered as declared } from '#shared/contract/acts/student'
import { changeRegistered } from '../../../acts/change'

export default serveAct(declared, changeRegistered)
