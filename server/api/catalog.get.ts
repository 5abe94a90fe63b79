import { readCatalog } from '#shared/contract/views/college'

export default serveView(readCatalog, ({ college }) => {
  const { catalog, programs, openings: _, sections: __, ...rest } = college
  return { ...rest, programs: Object.fromEntries(programs), courses: [...catalog.courses.values()], terms: catalog.terms,
    scale: catalog.scale, repeatPolicy: catalog.repeatPolicy }
})
