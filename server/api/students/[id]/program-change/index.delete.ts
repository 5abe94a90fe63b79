import { takeBackProgramChange as declared } from '#shared/contract/acts/student'
import { takeBackProgramChange } from '../../../../acts/release'

export default serveAct(declared, takeBackProgramChange)
