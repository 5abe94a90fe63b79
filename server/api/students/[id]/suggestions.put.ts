import { answerSuggestions as declared } from '#shared/contract/acts/advising'
import { answerSuggestions } from '../../../acts/review'

export default serveAct(declared, answerSuggestions)
