import { confirmProgram as declared } from '#shared/contract/acts/student'
import { confirmProgram } from '../../../acts/release'

export default serveAct(declared, confirmProgram)
