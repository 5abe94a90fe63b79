import { confirmPrograms as declared } from '#shared/contract/acts/office'
import { confirmPrograms } from '../../acts/office'

export default serveAct(declared, confirmPrograms)
