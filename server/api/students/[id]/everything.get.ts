import { readEverything } from '#shared/contract/views/student'
import { readEverythingView } from '../../../views/everything'

export default serveView(readEverything, readEverythingView)
