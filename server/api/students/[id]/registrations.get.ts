import { readPlace } from '#shared/contract/views/student'

/** The line is this server's own: nothing is asked of the database. */
export default serve(readPlace, async ({ student, input }) => useLanes().placeOf(student, input.key))
