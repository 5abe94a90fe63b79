import { readPlace } from '#shared/contract/views/student'

/** The line is this server's own: nothing is asked of the database. */
export default serveView(readPlace, ({ student, input }) => useLanes().placeOf(student, input.key) ?? { before: null, served: false })
