import { readCourseDemand } from '#shared/contract/views/demand'
import { readCourseDemandView } from '../../views/demand'

export default serveView(readCourseDemand, readCourseDemandView)
