import { readRosterFiles } from '#shared/contract/views/college'
import { giveRoster } from '../../college/folder'

export default serveView(readRosterFiles, async () => ({ files: { ...await usePatientDatabase().read(giveRoster) } }))
