import { readAccountView } from '#shared/contract/views/student'
import { readAccountOf } from '../../../views/account'

export default serveView(readAccountView, readAccountOf)
