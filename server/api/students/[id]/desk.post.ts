import { giveCard as declared } from '#shared/contract/acts/student'
import { giveCard } from '../../../standins/desk'

export default serveAct(declared, giveCard)
