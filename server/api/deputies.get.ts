import { readDeputies } from '#shared/contract/views/advising'
import { readDeputiesView } from '../views/advising'

export default serveView(readDeputies, readDeputiesView)
