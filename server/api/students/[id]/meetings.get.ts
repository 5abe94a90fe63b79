import { readSlots } from '#shared/contract/views/advising'
import { readSlotsView } from '../../../views/advising'

export default serveView(readSlots, readSlotsView)
