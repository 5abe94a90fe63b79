import { register as declared } from '#shared/contract/acts/student'
import { cameAt, type Trace } from '../../../db/trace'

export default serveOwn(declared, ({ event, student, visitor, input, at }) =>
  useLanes().register({ student, actor: visitor!.id, ...input, at }, cameAt(event.context.trace as Trace | undefined)),
() => useLanes().calmIn(useDatabase().isCrowded()))
