import { startCrowd as declared } from '#shared/contract/acts/college'
import { startCrowd } from '../../standins/crowd'

export default serveAct(declared, startCrowd)
