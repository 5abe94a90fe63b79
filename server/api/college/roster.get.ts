import { readRosterFiles } from '#shared/contract/views/college'
import { giveRoster } from '../../college/folder'

export default serveLongView(readRosterFiles, async ({ db }) => ({ files: { ...await giveRoster(db) } }))
