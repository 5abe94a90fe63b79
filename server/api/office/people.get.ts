import { readOfficePeople } from '#shared/contract/views/office'
import { readOfficePeopleView } from '../../views/office'

export default serveView(readOfficePeople, readOfficePeopleView)
