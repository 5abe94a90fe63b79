import { readAdvisees } from '#shared/contract/views/college'
import { readAdviseesView } from '../views/staff'

export default serveView(readAdvisees, readAdviseesView)
