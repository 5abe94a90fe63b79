import { takeBackProgramChange } from '../../../../services/program-change'

export default defineRoute({ access: 'own file', handle: async ({ student }) => {
  await takeBackProgramChange(useDatabase(), student)
  return { ok: true }
} })
