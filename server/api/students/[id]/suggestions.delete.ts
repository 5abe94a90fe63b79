import { takeBackSuggestions as declared } from '#shared/contract/acts/advising'
import { takeBackSuggestions } from '../../../acts/review'

export default serveAct(declared, takeBackSuggestions)
