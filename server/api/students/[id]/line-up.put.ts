import { chooseBundle as declared } from '#shared/contract/acts/student'
import { chooseBundle } from '../../../acts/line-up'

export default serveAct(declared, chooseBundle)
