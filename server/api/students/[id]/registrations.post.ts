import { register as declared } from '#shared/contract/acts/student'

export default serveOwn(declared, ({ student, visitor, input, at }) =>
  useLanes().register({ student, actor: visitor!.id, ...input, at }))
