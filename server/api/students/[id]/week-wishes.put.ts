import { keepWishes as declared } from '#shared/contract/acts/student'
import { keepWishes } from '../../../acts/week'

export default serveAct(declared, keepWishes)
