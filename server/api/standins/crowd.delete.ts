import { stopCrowd as declared } from '#shared/contract/acts/college'
import { stopCrowd } from '../../standins/crowd'

export default serveAct(declared, stopCrowd)
