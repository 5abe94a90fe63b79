import { register as declared } from '#shared/contract/acts/student'
import { registerOne } from '../../../acts/register'

export default serveOwn(declared, ({ student, visitor, input, college, at }) =>
  useDatabase().write(tx => registerOne(tx, { student, actor: visitor!.id, ...input }, college, at)))
