import { readStudent } from '#shared/contract/views/student'
import { readStudentView } from '../../../views/student'

export default serveView(readStudent, readStudentView)
