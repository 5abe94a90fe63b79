import { loadCollege } from '../services/catalog'

export default defineRoute({ access: 'signed in', handle: async () => {
  const { name, zone, creditPrice, termsText, sites, travel, programs, catalog, problems } = await loadCollege(useDatabase())
  return {
    name, zone, creditPrice, termsText, sites, travel, programs: Object.fromEntries(programs),
    courses: [...catalog.courses.values()], terms: catalog.terms, scale: catalog.scale, repeatPolicy: catalog.repeatPolicy, problems,
  }
} })
