import { confirmProgram } from '../../../services/release'

export default defineRoute({ access: 'own file', handle: async ({ student }) => {
  await confirmProgram(useDatabase(), student)
  return { ok: true }
} })
