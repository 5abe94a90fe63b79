import { StudentQuery } from '#shared/requests'
import { readStudent } from '../../../services/students'

export default defineRoute({ access: 'student file', query: StudentQuery,
  handle: ({ student, query }) => readStudent(useDatabase(), useDatabase(), student, query.term, { plan: query.plan }) })
