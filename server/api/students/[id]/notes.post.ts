import { writeNote as declared } from '#shared/contract/acts/advising'
import { writeNote } from '../../../acts/review'

export default serveAct(declared, writeNote)
