import { readRecordsAndPlans } from '#shared/contract/views/college'
import { giveRecordsAndPlans } from '../../college/folder'

export default serveLongView(readRecordsAndPlans, async ({ db }) => ({ files: { ...await giveRecordsAndPlans(db) } }))
