import { withdrawSignOff as declared } from '#shared/contract/acts/advising'
import { withdrawSignOff } from '../../../acts/release'

export default serveAct(declared, withdrawSignOff)
