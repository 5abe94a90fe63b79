import { readBrief } from '#shared/contract/views/advising'
import { readBriefView } from '../../../views/advising'

export default serveView(readBrief, readBriefView)
