import { exchangeCourse as declared } from '#shared/contract/acts/student'
import { exchangeCourse } from '../../../acts/change'

export default serveAct(declared, exchangeCourse)
