import { setOpenings as declared } from '#shared/contract/acts/office'
import { setOpenings } from '../acts/office'

export default serveAct(declared, setOpenings)
