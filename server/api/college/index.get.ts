import { readFolder } from '#shared/contract/views/college'
import { giveFolder } from '../../college/folder'

export default serveLongView(readFolder, async ({ db }) => ({ files: { ...await giveFolder(db) } }))
