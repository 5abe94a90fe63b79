import { TermQuery } from '#shared/requests'
import { readAdvisees } from '../services/advisees'

export default defineRoute({ access: 'advisor', query: TermQuery,
  handle: ({ account, query }) => readAdvisees(useDatabase(), account.id, query.term) })
