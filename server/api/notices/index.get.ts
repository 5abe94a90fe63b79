import { readMessages } from '#shared/contract/views/advising'
import { readMessagesView } from '../../views/advising'

export default serveView(readMessages, readMessagesView)
