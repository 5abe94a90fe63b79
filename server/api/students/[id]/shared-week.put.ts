import { shareWeek as declared } from '#shared/contract/acts/student'
import { shareWeek } from '../../../acts/week'

export default serveAct(declared, shareWeek)
