import { TermQuery } from '#shared/requests'
import { acceptTerms } from '../../../services/release'

export default defineRoute({ access: 'own file', body: TermQuery, handle: async ({ student, body }) => {
  await acceptTerms(useDatabase(), { student, term: body.term })
  return { ok: true }
} })
