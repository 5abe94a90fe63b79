import { wishNotices as declared } from '#shared/contract/acts/advising'
import { wishNotices } from '../../acts/notices'

export default serveAct(declared, wishNotices)
