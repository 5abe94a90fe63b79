import { keepInMind as declared } from '#shared/contract/acts/student'
import { keepInMind } from '../../../acts/week'

export default serveAct(declared, keepInMind)
