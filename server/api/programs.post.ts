import { loadProgramFile as declared } from '#shared/contract/acts/college'
import { loadProgramFile } from '../acts/programs'

export default serveAct(declared, loadProgramFile)
