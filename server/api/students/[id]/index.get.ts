import { TermQuery } from '#shared/requests'
import { readStudent } from '../../../services/students'

export default defineRoute({ access: 'student file', query: TermQuery, handle: ({ student, query }) => readStudent(useDatabase(), useDatabase(), student, query.term) })
