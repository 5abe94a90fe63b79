import { tryProgramText as declared } from '#shared/contract/acts/college'
import { tryProgramText } from '../../acts/programs'

export default serveAct(declared, tryProgramText)
