import { BundleChoice } from '#shared/requests'
import { chooseBundle } from '../../../services/line-up'

export default defineRoute({ access: 'own file', body: BundleChoice, handle: async ({ student, body }) => {
  await chooseBundle(useDatabase(), { student, ...body })
  return { ok: true }
} })
