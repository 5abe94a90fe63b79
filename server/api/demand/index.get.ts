import { readDemand } from '#shared/contract/views/demand'
import { readDemandView } from '../../views/demand'

export default serveLongView(readDemand, readDemandView)
