import { dryRun } from '#shared/contract/views/student'
import { readSheet } from '../../../views/week'

export default serveView(dryRun, readSheet)
