import { loadCollege } from '../services/catalog'

export default defineRoute({ access: 'office', handle: async () => (await loadCollege(useDatabase())).openings })
