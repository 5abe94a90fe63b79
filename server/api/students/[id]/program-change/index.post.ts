import { askProgramChange as declared } from '#shared/contract/acts/student'
import { askProgramChange } from '../../../../acts/release'

export default serveAct(declared, askProgramChange)
