import { readMails } from '#shared/contract/views/advising'
import { readMailsView } from '../../views/advising'

export default serveView(readMails, readMailsView)
