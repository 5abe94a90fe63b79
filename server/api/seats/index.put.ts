import { setSeats as declared } from '#shared/contract/acts/office'
import { setSeats } from '../../acts/office'

export default serveAct(declared, setSeats)
