import { readSeats } from '#shared/contract/views/college'
import { readSeatsView } from '../../views/staff'

export default serveView(readSeats, readSeatsView)
