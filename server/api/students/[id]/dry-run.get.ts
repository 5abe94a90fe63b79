import { TermQuery } from '#shared/requests'
import { dryRun } from '../../../services/registration'

export default defineRoute({ access: 'student file', query: TermQuery,
  handle: ({ student, query }) => dryRun(useDatabase(), student, query.term) })
