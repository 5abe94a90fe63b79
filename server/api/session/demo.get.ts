import { demoAccounts } from '../../services/accounts'

export default defineRoute({ access: 'everybody', demo: true, handle: () => demoAccounts(useDatabase()) })
