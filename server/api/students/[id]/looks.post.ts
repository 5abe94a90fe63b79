import { finishLook as declared } from '#shared/contract/acts/advising'
import { finishLook } from '../../../acts/review'

export default serveAct(declared, finishLook)
