import { findPeople } from '#shared/contract/views/advising'
import { findPeopleView } from '../views/advising'

export default serveView(findPeople, findPeopleView)
