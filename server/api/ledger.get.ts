import { readLedger } from '#shared/contract/views/office'
import { readLedgerView } from '../views/office'

export default serveView(readLedger, readLedgerView)
