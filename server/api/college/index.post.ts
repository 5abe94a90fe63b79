import { loadFolder as declared } from '#shared/contract/acts/college'
import { takeFolder } from '../../college/folder'
import { longWork } from '../../college/long-work'

export default serveOwn(declared, ({ input, visitor, at }) => longWork(useDatabase(), input.work, at, step =>
  usePatientDatabase().write(tx => takeFolder(tx, input.files, { keep: input.keep, actor: visitor!.id, at, step }))))
