import { choosePlan as declared } from '#shared/contract/acts/student'
import { choosePlan } from '../../../acts/money'

export default serveAct(declared, choosePlan)
