import { readRecordsAndPlans } from '#shared/contract/views/college'
import { giveRecordsAndPlans } from '../../college/folder'

export default serveView(readRecordsAndPlans, async () => ({ files: { ...await usePatientDatabase().read(giveRecordsAndPlans) } }))
