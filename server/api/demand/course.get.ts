import { readCourseDemand } from '#shared/contract/views/demand'
import { readCourseDemandView } from '../../views/demand'

export default serveLongView(readCourseDemand, readCourseDemandView)
