import { keepOfficeHours as declared } from '#shared/contract/acts/advising'
import { keepOfficeHours } from '../acts/meetings'

export default serveAct(declared, keepOfficeHours)
