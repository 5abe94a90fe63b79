import { readOpenings } from '#shared/contract/views/college'

export default serveView(readOpenings, ({ college }) => college.openings)
