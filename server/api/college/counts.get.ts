import { readCounts } from '#shared/contract/views/college'
import { countCollegeRows } from '../../db/store/college-folder'

export default serveView(readCounts, ({ db }) => countCollegeRows(db))
