import { answerException as declared } from '#shared/contract/acts/advising'
import { answerException } from '../../../acts/exceptions'

export default serveAct(declared, answerException)
