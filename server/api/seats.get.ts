import { TermQuery } from '#shared/requests'
import { readSeats } from '../services/office'

export default defineRoute({ access: 'office', query: TermQuery, handle: ({ query }) => readSeats(useDatabase(), query.term) })
