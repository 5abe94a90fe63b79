import { cancelSection as declared } from '#shared/contract/acts/office'
import { cancelSection } from '../acts/office'

export default serveAct(declared, cancelSection)
