import { loadFolder as declared } from '#shared/contract/acts/college'
import { takeFolder } from '../../college/folder'

export default serveOwn(declared, ({ input, visitor, at }) =>
  usePatientDatabase().write(tx => takeFolder(tx, input.files, { keep: input.keep, actor: visitor!.id, at })))
