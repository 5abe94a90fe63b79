import { setRow as declared } from '#shared/contract/acts/student'
import { setRow } from '../../../../acts/line-up'

export default serveAct(declared, setRow)
