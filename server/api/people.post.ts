import { erasePerson as declared } from '#shared/contract/acts/office'
import { erasePerson } from '../acts/office'

export default serveAct(declared, erasePerson)
