import { TermQuery } from '#shared/requests'
import { readWeek } from '../../../services/registration'

export default defineRoute({ access: 'student file', query: TermQuery,
  handle: ({ student, query }) => readWeek(useDatabase(), student, query.term) })
