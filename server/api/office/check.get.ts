import { readCollegeCheck } from '#shared/contract/views/office'
import { readCollegeCheckView } from '../../views/office'

export default serveView(readCollegeCheck, readCollegeCheckView)
