import { startPayment as declared } from '#shared/contract/acts/student'
import { startPayment } from '../../../acts/money'

export default serveAct(declared, startPayment)
