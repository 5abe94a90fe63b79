import { loadProgramFile as declared } from '#shared/contract/acts/college'
import { loadProgramFile } from '../acts/college'

export default serveAct(declared, loadProgramFile)
