import { dropCourses as declared } from '#shared/contract/acts/student'
import { dropCourses } from '../../../acts/change'

export default serveAct(declared, dropCourses)
