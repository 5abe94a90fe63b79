import { orderRows as declared } from '#shared/contract/acts/student'
import { orderRows } from '../../../../acts/line-up'

export default serveAct(declared, orderRows)
