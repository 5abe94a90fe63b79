import { readDemoAccounts } from '#shared/contract/views/college'
import { demoPeople } from '../../db/store/people'

export default serveView(readDemoAccounts, ({ db }) => demoPeople(db))
