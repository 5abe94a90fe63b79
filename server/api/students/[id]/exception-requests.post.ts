import { askException as declared } from '#shared/contract/acts/advising'
import { askException } from '../../../acts/exceptions'

export default serveAct(declared, askException)
