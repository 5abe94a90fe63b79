import { readDemand } from '#shared/contract/views/demand'
import { readDemandView } from '../../views/demand'

export default serveView(readDemand, readDemandView)
