import { readTokens } from '#shared/contract/views/tokens'
import { readTokensView } from '../views/tokens'

export default serveView(readTokens, readTokensView)
