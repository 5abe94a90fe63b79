import { removeNote as declared } from '#shared/contract/acts/advising'
import { removeNote } from '../../../acts/review'

export default serveAct(declared, removeNote)
