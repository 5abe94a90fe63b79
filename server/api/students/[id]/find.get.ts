import { find } from '#shared/contract/views/find'
import { readFind } from '../../../views/find'

export default serveView(find, readFind)
