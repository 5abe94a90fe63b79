import { readFolder } from '#shared/contract/views/college'
import { giveFolder } from '../../college/folder'

export default serveView(readFolder, async () => ({ files: { ...await usePatientDatabase().read(giveFolder) } }))
