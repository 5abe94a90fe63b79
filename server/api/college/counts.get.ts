import { readCounts } from '#shared/contract/views/college'
import { KeptAWhile } from '../../college/kept-a-while'
import { countCollegeRows } from '../../db/store/college-folder'

const counts = new KeptAWhile<Awaited<ReturnType<typeof countCollegeRows>>>()

/** Most rows are records, and are many: after each import they are counted anew, otherwise now and then. */
export default serveView(readCounts, ({ db, college }) => counts.get(String(college.stamp), () => countCollegeRows(db)))
